import type { ProjectStateDto } from '@tally/core';

type Layer = ProjectStateDto['layer'];

/** What a project adds to its elements, for tests: nothing but what is given. */
export const sampleLayer = (part: Partial<Layer> = {}): Layer => ({
  identities: {},
  attributes: {},
  finishes: {},
  wallFinishes: {},
  zones: {},
  facts: {},
  given: {},
  drawnRooms: {},
  allowances: {},
  limits: [],
  chosenFaces: {},
  leftOut: {},
  materials: [],
  ...part,
});
