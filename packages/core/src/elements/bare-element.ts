import type { ModelElement } from './model-element.ts';

/** An element that comes from no model: without class, shape, materials or a place; what it has is said over this. */
export const BARE_ELEMENT: Omit<ModelElement, 'globalId' | 'name' | 'quantities'> = {
  ifcClass: '',
  typeName: null,
  tag: null,
  storey: null,
  space: null,
  parent: null,
  host: null,
  zones: [],
  materials: [],
  codes: [],
  layers: [],
  openings: [],
  faces: [],
  properties: {},
  finishes: null,
  box: null,
};
