export type { MeshPiece } from './mesh/mesh-messages.ts';
export { startWorker } from './mesh/start-worker.ts';
export { type MeshStreamOptions, type MeshStreamOutcome, streamMeshes } from './mesh/stream-meshes.ts';
export type { FileElement, FileModel } from './reader/read-elements.ts';
export { type IfcSchema, SCHEMAS } from './schema/entities.ts';
export { StepFile } from './step/step-file.ts';
export { indexStepFile } from './step/step-index.ts';
export { type ModelTakeoff, readIfc, reportStalls, type TakeoffOptions, takeOffIfc } from './takeoff/read-model.ts';
export { listMeshNeeds, type Takeoff, takeOff } from './takeoff/take-off.ts';
