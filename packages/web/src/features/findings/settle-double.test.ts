import type { Finding } from '@tally/core';
import { listSettlings } from './settle-double.ts';

const finding = (more: Partial<Finding>): Finding => ({
  code: 'double-count',
  severity: 'warning',
  message: 'Two columns stand in one place and are both priced.',
  globalIds: ['a', 'b'],
  keys: [4, 9],
  ...more,
});

const settle = (more: Partial<Finding>) => listSettlings(finding(more), (id) => id.toUpperCase());

describe('what is counted twice', () => {
  it('is settled by leaving the second out, with what was found as the reason', () =>
    expect(settle({})).toEqual([
      {
        label: 'Leave one out',
        cause: 'One of two left out that were counted twice',
        diff: {
          added: [
            { kind: 'leftOut', id: '9', body: { reason: 'Two columns stand in one place and are both priced.' } },
          ],
        },
      },
    ]));
  it('keeps its reason as short as reasons may be', () =>
    expect(settle({ message: 'x'.repeat(900) })[0]!.diff.added).toMatchObject([{ body: { reason: 'x'.repeat(300) } }]));
  it('one element is not priced in the second of its sections', () =>
    expect(
      settle({
        keys: [4],
        lines: [
          { section: 'walls', item: 'OAK' },
          { section: 'fit', item: 'OAK' },
        ],
      }),
    ).toMatchObject([
      { label: 'Not in FIT', diff: { added: [{ kind: 'pin', body: { element: 4, section: 'fit' } }] } },
    ]));
  it('what was decided by hand there before gives way', () => {
    const pin = { id: 'p', element: 4, section: 'fit', item: 'OAK', driver: 'Count' };
    const lines = [
      { section: 'walls', item: 'OAK' },
      { section: 'fit', item: 'OAK' },
    ];
    const [way] = listSettlings(finding({ keys: [4], lines }), String, [pin, { ...pin, id: 'q', element: 5 }]);
    expect(way!.diff.removed).toEqual([{ kind: 'pin', id: 'p', body: pin }]);
  });
  it('of a whole and a part either is left out, or the part in its section', () =>
    expect(
      settle({
        lines: [
          { section: 'walls', item: 'OAK' },
          { section: 'fit', item: 'OAK' },
        ],
      }).map((s) => s.diff.added![0]!.id),
    ).toEqual(['9', 'off-9-fit']));
  it.each([{ keys: [4] }, { keys: [4, 9, 10] }, { keys: undefined }, { code: 'overlap' as const }])(
    'is not settled by it with %j',
    (more) => expect(settle(more as Partial<Finding>)).toEqual([]),
  );
});
