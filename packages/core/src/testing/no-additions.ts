import type { ProjectAdditions } from '../contract/project-additions.ts';

/** A project that adds nothing to its elements. */
export const NO_ADDITIONS: ProjectAdditions = {
  attributes: new Map(),
  finishes: new Map(),
  wallFinishes: new Map(),
  zones: new Map(),
  facts: new Map(),
  leftOut: new Set(),
  materials: [],
  choices: {},
  overrides: [],
  drawnRooms: new Map(),
  allowances: new Map(),
  functionalUnits: [],
  limits: [],
  chosenFaces: new Map(),
};
