import type { FindingCode } from '@tally/core';

/** Findings in a few words. */
export const FINDING_WORDS: Record<FindingCode, string> = {
  'file-truncated': 'File cut off',
  'file-record-damaged': 'Damaged record',
  'file-duplicate-id': 'Record number twice',
  'unit-assumed': 'Unit assumed',
  'geometry-stalled': 'Shape not worked out',
  'no-geometry': 'No shape',
  'no-storey': 'No storey',
  'duplicate-global-id': 'GlobalId twice',
  coincident: 'Twice in one place',
  'stated-differs': 'Stated differs',
  'open-body': 'Body not closed',
  'volume-not-positive': 'No volume',
  'density-missing': 'Density missing',
  overlap: 'Bodies overlap',
  'storey-level-differs': 'On another level',
  'absurd-size': 'Absurd size',
  'layers-differ-from-width': 'Layers differ',
  'type-used-with-different-widths': 'Type in several widths',
  'rooms-overlap': 'Rooms overlap',
  'room-without-finish': 'No floor finish',
  'zero-thickness-layer': 'Layer without thickness',
};
