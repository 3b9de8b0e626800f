import * as THREE from 'three';

/** Width of the texture that holds one state per element. */
export const STATE_WIDTH = 1024;

/** What tells a colour from others beside it for those who do not see colours: plain, stripes one way or the other, dots. */
const PATTERNS = ['plain', 'rising', 'dots', 'falling'] as const;
export type ElementPattern = (typeof PATTERNS)[number];

/** How one element is drawn: as in the file, in a colour of its own, or not at all. */
export type ElementLook =
  | { readonly kind: 'natural' }
  | { readonly kind: 'colour'; readonly rgb: readonly [number, number, number]; readonly pattern?: ElementPattern }
  /** See-through: its edges alone. */
  | { readonly kind: 'ghost' }
  | { readonly kind: 'hidden' };

const VERTEX = `
attribute float element;
attribute vec4 tint;
uniform sampler2D states;
varying vec3 vWorld;
varying vec3 vPlace;
varying vec4 vTint;
varying vec4 vState;
varying float vElement;
void main() {
  float row = floor((element + 0.5) / ${STATE_WIDTH}.0);
  vec2 at = vec2((element - row * ${STATE_WIDTH}.0 + 0.5) / ${STATE_WIDTH}.0, (row + 0.5) / float(textureSize(states, 0).y));
  vState = texture2D(states, at);
  vTint = tint;
  vElement = element;
  vec4 place = modelViewMatrix * vec4(position, 1.0);
  vPlace = place.xyz;
  vWorld = (modelMatrix * vec4(position, 1.0)).xyz;
  gl_Position = vState.a > 0.2 && vState.a < 0.4 ? vec4(2.0, 2.0, 2.0, 1.0) : projectionMatrix * place;
}`;

const DRAW = `
uniform vec4 cut;
varying vec3 vWorld;
varying vec3 vPlace;
varying vec4 vTint;
varying vec4 vState;
void main() {
  if (dot(vWorld, cut.xyz) > cut.w) discard;
  bool own = vState.a > 0.5;
  // A ghost is seen by its lines alone.
  if (own && vState.a < 0.9) discard;
  // See-through things are drawn as a screen of dots: no sorting, one pass, nothing that flickers.
  if (!own && vTint.a < 0.95 && mod(floor(gl_FragCoord.x) + floor(gl_FragCoord.y), 2.0) > 0.5) discard;
  // The face's own normal, towards the eye: flat faces need no normals in memory.
  vec3 n = normalize(cross(dFdx(vPlace), dFdy(vPlace)));
  float light = 0.62 + 0.3 * max(0.0, dot(n, normalize(vec3(0.35, 0.5, 0.8)))) + 0.1 * n.y;
  vec3 colour = own ? vState.rgb : vTint.rgb;
  if (own) {
    // The last steps of alpha say which pattern there is.
    float pattern = floor(255.5 - vState.a * 255.0);
    vec2 at = floor(gl_FragCoord.xy);
    bool marked = pattern == 1.0 ? mod(at.x - at.y, 8.0) < 2.0
      : pattern == 2.0 ? mod(at.x, 6.0) < 2.0 && mod(at.y, 6.0) < 2.0
      : pattern == 3.0 && mod(at.x + at.y, 8.0) < 2.0;
    if (marked) colour = mix(colour, dot(colour, vec3(0.33)) > 0.4 ? vec3(0.0) : vec3(1.0), 0.28);
  }
  gl_FragColor = vec4(colour * light, 1.0);
  #include <colorspace_fragment>
}`;

/** Hairlines: what is cut off has none, a ghost is drawn by faint ones. */
const EDGE = `
uniform vec4 cut;
uniform vec4 edge;
uniform float scale;
varying vec3 vWorld;
varying vec3 vPlace;
varying vec4 vState;
void main() {
  if (dot(vWorld, cut.xyz) > cut.w) discard;
  bool ghost = vState.a > 0.5 && vState.a < 0.9;
  // Far away, where a metre is a few pixels, lines stand so close that they would hide what they are drawn on.
  float far = 0.06 + 0.94 * smoothstep(0.5, 9.0, scale / max(-vPlace.z, 0.001));
  gl_FragColor = vec4(edge.rgb, edge.a * far * (ghost ? 0.28 : 1.0));
  #include <colorspace_fragment>
}`;

/** The corner of a line knows its element, and has no colour of its own. */
const EDGE_VERTEX = VERTEX.replace('attribute vec4 tint;', '').replace('vTint = tint;', 'vTint = vec4(0.0);');

const PLACE = `
uniform vec4 cut;
varying vec3 vWorld;
varying vec4 vState;
void main() {
  if (dot(vWorld, cut.xyz) > cut.w) discard;
  if (vState.a > 0.5 && vState.a < 0.9) discard;
  gl_FragColor = vec4(vWorld, 1.0);
}`;

const PICK = `
uniform vec4 cut;
varying vec3 vWorld;
varying float vElement;
varying vec4 vState;
void main() {
  // What is cut off or see-through does not catch the pointer.
  if (dot(vWorld, cut.xyz) > cut.w) discard;
  if (vState.a > 0.5 && vState.a < 0.9) discard;
  float id = floor(vElement + 1.5);
  gl_FragColor = vec4(mod(id, 256.0), mod(floor(id / 256.0), 256.0), floor(id / 65536.0), 255.0) / 255.0;
}`;

/**
 * Materials for drawing, for finding the element under the pointer, and the place it points at.
 * @param cut plane by its normal and its distance from the scene's origin: what lies beyond it is left out
 * @param edge colour of the hairlines, and how far they cover
 * @param scale pixels of a metre that is one metre away
 */
export function createElementMaterials(
  states: THREE.DataTexture,
  cut: { value: THREE.Vector4 },
  edge: { value: THREE.Vector4 },
  scale: { value: number },
): {
  draw: THREE.ShaderMaterial;
  pick: THREE.ShaderMaterial;
  place: THREE.ShaderMaterial;
  edges: THREE.ShaderMaterial;
} {
  const uniforms = { states: { value: states }, cut };
  const apart = (fragmentShader: string) =>
    new THREE.ShaderMaterial({
      uniforms,
      vertexShader: VERTEX,
      fragmentShader,
      side: THREE.DoubleSide,
      blending: THREE.NoBlending,
    });
  return {
    // Faces stand back a little, so that the lines on them are whole.
    draw: new THREE.ShaderMaterial({
      uniforms,
      vertexShader: VERTEX,
      fragmentShader: DRAW,
      side: THREE.DoubleSide,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    }),
    edges: new THREE.ShaderMaterial({
      uniforms: { ...uniforms, edge, scale },
      vertexShader: EDGE_VERTEX,
      fragmentShader: EDGE,
      transparent: true,
      depthWrite: false,
    }),
    pick: apart(PICK),
    place: apart(PLACE),
  };
}

/** A texture with room for `count` element states, all natural. Alpha: 0 natural, about 0.3 hidden, 0.6 ghost, 1 own colour, just below it with a pattern. */
export function createStateTexture(count: number): THREE.DataTexture {
  const height = Math.max(1, Math.ceil(count / STATE_WIDTH));
  const texture = new THREE.DataTexture(
    new Uint8Array(STATE_WIDTH * height * 4),
    STATE_WIDTH,
    height,
    THREE.RGBAFormat,
  );
  texture.needsUpdate = true;
  return texture;
}

/** Writes the state of one element. */
export function writeElementLook(texture: THREE.DataTexture, element: number, look: ElementLook): void {
  const data = texture.image.data as Uint8Array;
  data.set(
    look.kind === 'natural'
      ? [0, 0, 0, 0]
      : look.kind === 'hidden'
        ? [0, 0, 0, 77]
        : look.kind === 'ghost'
          ? [0, 0, 0, 153]
          : [...look.rgb, 255 - PATTERNS.indexOf(look.pattern ?? 'plain')],
    element * 4,
  );
}
