export type { ElementLook } from './element-shader.ts';
export { SceneViewer, type ViewBox } from './scene-viewer.ts';
