/** Tolerances of all measuring, in metres unless the name says otherwise. */
export const TOLERANCE = {
  /** Points closer than this are one point. */
  point: 1e-4,
  /** A face reaches another if the gap is no larger. */
  touch: 1e-3,
  /** A wall's end joins what it comes as near to, beyond the thicknesses. */
  joint: 0.02,
  /** Directions are parallel if the cosine differs from 1 by no more. */
  parallel: 1e-6,
  /** A stated figure agrees with a measured one within this share. */
  statedShare: 0.01,
} as const;

/** Chords per full circle when a curve is turned into a polygon; the same number the mesh is made with. */
export const CIRCLE_SEGMENTS = 48;
