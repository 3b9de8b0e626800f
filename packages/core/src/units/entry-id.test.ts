import { toEntryId } from './entry-id.ts';

it('a text is its own id while it fits; longer ones stay apart', () => {
  expect(toEntryId('storey=Roof')).toBe('storey=Roof');
  const [a, b] = [`${'x'.repeat(300)}a`, `${'x'.repeat(300)}b`].map(toEntryId) as [string, string];
  expect(a).not.toBe(b);
  expect(a.length).toBeLessThanOrEqual(200);
  expect(toEntryId(`${'x'.repeat(300)}a`)).toBe(a);
});
