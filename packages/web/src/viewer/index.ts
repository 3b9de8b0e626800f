export type { ElementLook } from './element-shader.ts';
export { type CutPlane, SceneViewer, type ViewBox } from './scene-viewer.ts';
