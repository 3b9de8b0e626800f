/** What the mesh worker is started with. */
export interface MeshJob {
  /** The file, in shared memory so that a restart need not copy it. */
  readonly bytes: Uint8Array;
  /** Record numbers to mesh, in this order. */
  readonly ids: readonly number[];
  /** Leave the openings out of the hosts. */
  readonly isGross: boolean;
  /** Chords per full circle. */
  readonly segments: number;
  /** Two shared integers: a counter that grows with each step, and the record number being worked on. */
  readonly heartbeat: Int32Array;
}

/** One piece of an element in one colour; world coordinates of the model, metres, Z up. */
export interface MeshPiece {
  /** Record number of the drawn item it belongs to. */
  readonly item: number;
  readonly positions: Float64Array;
  readonly indices: Uint32Array;
  /** Red, green, blue, opacity, 0 to 1. */
  readonly colour: readonly [number, number, number, number];
}

export type MeshMessage =
  | { readonly kind: 'started' }
  | { readonly kind: 'opened' }
  | { readonly kind: 'mesh'; readonly id: number; readonly pieces: readonly MeshPiece[] }
  | { readonly kind: 'done' }
  | { readonly kind: 'failed'; readonly reason: string };
