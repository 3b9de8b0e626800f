/** What the designers of Heron Wharf can change. Lengths in millimetres. */
export interface BoathouseParameters {
  /** Bays of 4.8 m along the river. */
  readonly bays: number;
  readonly storeyHeight: number;
  readonly outerWall: 'timber-clad' | 'rendered';
  readonly partition: 'plain' | 'acoustic';
  readonly windowHeight: number;
  /** Two more windows in the club room's end wall. */
  readonly hasEndWindows: boolean;
  readonly rafterSpacing: number;
  readonly floorPanel: number;
  readonly changingFloor: string;
  readonly changingWall: string;
  readonly clubFloor: string;
  /** Three elements drawn anew, so that they carry other GlobalIds. */
  readonly isRedrawn: boolean;
}

const R1: BoathouseParameters = {
  bays: 6,
  storeyHeight: 3600,
  outerWall: 'timber-clad',
  partition: 'plain',
  windowHeight: 1200,
  hasEndWindows: false,
  rafterSpacing: 600,
  floorPanel: 160,
  changingFloor: 'Vinyl sheet',
  changingWall: 'Paint',
  clubFloor: 'Oak boards',
  isRedrawn: false,
};
const R2: BoathouseParameters = {
  ...R1,
  bays: 7,
  partition: 'acoustic',
  hasEndWindows: true,
  changingFloor: 'Ceramic tiles',
  changingWall: 'Ceramic tiles',
  isRedrawn: true,
};

/** The three issued revisions: as designed; one bay longer with other partitions and finishes; after savings. */
export const REVISIONS = {
  R1,
  R2,
  R3: { ...R2, windowHeight: 1000, rafterSpacing: 800, floorPanel: 140 },
} satisfies Record<string, BoathouseParameters>;
export type RevisionName = keyof typeof REVISIONS;

/** Limits of what the designers' desk accepts, so that the building still stands. */
export const PARAMETER_LIMITS = {
  bays: { min: 6, max: 12 },
  storeyHeight: { min: 3000, max: 4500 },
  windowHeight: { min: 600, max: 1600 },
  rafterSpacing: { min: 400, max: 1200 },
  floorPanel: { min: 100, max: 240 },
} as const;

export const FLOOR_FINISHES = ['Oak boards', 'Vinyl sheet', 'Ceramic tiles', 'Carpet tiles', 'Sealed screed'] as const;

/** What is wrong with parameters, in words; null if they can be built. */
export function checkParameters(p: BoathouseParameters): string | null {
  for (const [name, { min, max }] of Object.entries(PARAMETER_LIMITS)) {
    const value = p[name as keyof typeof PARAMETER_LIMITS];
    if (!Number.isFinite(value) || value < min || value > max)
      return `${name} must lie between ${min} and ${max}; it is ${value}.`;
  }
  return Number.isInteger(p.bays) ? null : 'bays must be a whole number.';
}
