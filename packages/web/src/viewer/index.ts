export type { CameraPlace, ViewBox } from './camera-fit.ts';
export { EdgeFinder } from './edge-finder.ts';
export type { ElementLook, ElementPattern } from './element-shader.ts';
export { type CutPlane, SceneViewer } from './scene-viewer.ts';
