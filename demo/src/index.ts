export { type BoathouseOptions, writeBoathouse } from './build-boathouse.ts';
export { writeLodgeModel } from './lodge-model.ts';
export {
  type BoathouseParameters,
  checkParameters,
  FLOOR_FINISHES,
  PARAMETER_LIMITS,
  REVISIONS,
  type RevisionName,
} from './parameters.ts';
export { makeStarter } from './starter/starter.ts';
export { nameToGlobalId, StepWriter } from './step-writer.ts';
export { writeWallModel } from './wall-model.ts';
