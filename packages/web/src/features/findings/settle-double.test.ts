import type { Finding } from '@tally/core';
import { settleDouble } from './settle-double.ts';

const finding = (more: Partial<Finding>): Finding => ({
  code: 'double-count',
  severity: 'warning',
  message: 'Two columns stand in one place and are both priced.',
  globalIds: ['a', 'b'],
  keys: [4, 9],
  ...more,
});

describe('what is counted twice', () => {
  it('is settled by leaving the second out, with what was found as the reason', () =>
    expect(settleDouble(finding({}))?.diff).toEqual({
      added: [{ kind: 'leftOut', id: '9', body: { reason: 'Two columns stand in one place and are both priced.' } }],
    }));
  it('keeps its reason as short as reasons may be', () =>
    expect(settleDouble(finding({ message: 'x'.repeat(900) }))?.diff.added).toMatchObject([
      { body: { reason: 'x'.repeat(300) } },
    ]));
  it.each([{ keys: [4] }, { keys: [4, 9, 10] }, { keys: undefined }, { code: 'overlap' as const }])(
    'is not settled by it with %j',
    (more) => expect(settleDouble(finding(more as Partial<Finding>))).toBeNull(),
  );
});
