import type { ScaleKey, ScaleRow } from '@tally/core';
import { draftToRows, emptyCells, nextRow, rowsToDraft } from './scale-draft.ts';

const depth: ScaleKey = { name: 'Depth', unit: 'm' };
const kind: ScaleKey = { name: 'Kind' };

describe('rows of a scale as they are typed', () => {
  it('read back as they were kept', () => {
    const rows: ScaleRow[] = [
      { at: [{ to: 1.25 }, 'Clay*'], value: 16.5 },
      { at: [{ from: 1.25, to: 2 }, 'Clay*'], value: 21 },
      { at: [{}, '*'], value: 0 },
    ];
    expect(draftToRows(rowsToDraft(rows), [depth, kind])).toEqual(rows);
  });
  it('take decimals with a comma and leave ends open', () => {
    const cells = [{ at: [{ from: '1,25', to: '', text: '' }], value: '21,5' }];
    expect(draftToRows(cells, [depth])).toEqual([{ at: [{ from: 1.25 }], value: 21.5 }]);
  });
  it('begin where the last one ends', () => {
    const cells = rowsToDraft([{ at: [{ to: 2 }, 'Clay'], value: 1 }]);
    expect(nextRow(cells, [depth, kind])).toEqual({
      at: [
        { from: '2', to: '', text: '' },
        { from: '', to: '', text: '' },
      ],
      value: '',
    });
    expect(nextRow([], [depth])).toEqual(emptyCells([depth]));
  });
  it.each([
    [[depth], { at: [{ from: '', to: '1', text: '' }], value: '' }, 'Row 1: the figure is missing.'],
    [[depth], { at: [{ from: '', to: '1', text: '' }], value: 'dear' }, 'Row 1: "dear" is no figure.'],
    [[depth], { at: [{ from: 'low', to: '1', text: '' }], value: '1' }, 'Row 1: "low" is no figure.'],
    [[depth], { at: [{ from: '', to: 'deep', text: '' }], value: '1' }, 'Row 1: "deep" is no figure.'],
    [[kind], { at: [{ from: '', to: '', text: ' ' }], value: '1' }, 'Row 1: the text for Kind is missing.'],
  ])('say what cannot be read', (keys, cell, words) => expect(draftToRows([cell], keys)).toEqual([words]));
});
