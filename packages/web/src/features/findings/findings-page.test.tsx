/** @jest-environment jsdom */
import type { Finding, ListedFinding } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { type Answers, refuse, renderInProject } from '../../testing/in-project.tsx';
import { FindingsPage } from './findings-page.tsx';

const finding = (code: Finding['code'], message: string, more: Partial<Finding> = {}): Finding => ({ code, severity: 'warning', message, globalIds: ['g1'], ...more }); // biome-ignore format: one record
const listed = (key: string, of: Finding, accepted: string | null = null): ListedFinding => ({
  finding: of,
  key,
  revisionId: 'r1',
  accepted,
});
// One wall that is priced twice for 120.00, and two openings of one cause.
const LIST = [
  listed('a', finding('double-count', 'Wall W1 is priced by two lines of masonry.', { severity: 'error', keys: [11], money: 12_000 })),
  listed('b', finding('opening-not-measured', 'IfcDoor D1 has an opening that has no one size.', { cause: 'doors' })),
  listed('c', finding('opening-not-measured', 'IfcDoor D2 has an opening that has no one size.', { cause: 'doors' })),
]; // biome-ignore format: three findings

beforeAll(() => giveSizes());
const draw = (answers: Answers = {}, list = LIST) => {
  const page = { total: list.length + 4, findings: list };
  const asked = ['GET /findings?from=0', 'GET /findings?from=3'];
  return renderInProject(<FindingsPage />, {
    [asked[0]!]: () => ({ body: page }),
    [asked[1]!]: () => ({ body: { ...page, findings: [] } }),
    'POST /elements/amount': () => ({ body: { amount: 84_000 * 10_000 } }),
    ...answers,
  });
};
const lineOf = (text: RegExp) => within(screen.getAllByRole('listitem').find((li) => text.test(li.textContent!))!);

describe('what the checks found', () => {
  it('stands by kind, the gravest first, in building words, with the money that is counted twice', async () => {
    draw();
    expect(await screen.findByText(/Wall W1 is priced by two lines/)).toBeTruthy();
    expect(lineOf(/W1/).getByText('120.00 EUR')).toBeTruthy();
    expect(screen.getAllByRole('list').map((l) => l.getAttribute('aria-label'))[0]).toMatch(/twice|double/i);
    // Two of one cause are one line; raw names of the file are none that one reads.
    expect(lineOf(/D1/).getByText('and 1 more like it')).toBeTruthy();
    expect(document.body.textContent).not.toContain('IfcDoor');
    expect(
      screen.getByText('4 more findings are not shown. Correct what makes these, and the others come.'),
    ).toBeTruthy();
    await waitFor(() => expect(screen.getByTestId('findings-stake').textContent).toContain('840.00'));
  }, 30_000);
  it('is accepted for all of one cause at once, with a reason', async () => {
    const { posted } = draw({ 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }) });
    await screen.findByText(/D1/);
    await userEvent.click(lineOf(/D1/).getByRole('button', { name: 'Accept' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Reason' }), 'Measured on site{Enter}');
    const changes = () => posted().filter((p) => p.what === 'POST /changes');
    await waitFor(() => expect(changes()).toHaveLength(1));
    expect(changes()[0]!.body).toMatchObject({
      diff: {
        added: [
          { kind: 'accepted', id: 'b', body: { reason: 'Measured on site' } },
          { kind: 'accepted', id: 'c' },
        ],
      },
    });
    await waitFor(() => expect(screen.queryByRole('textbox', { name: 'Reason' })).toBeNull());
  }, 30_000);
  it('keeps the reason that was typed when the server says no', async () => {
    draw({ 'POST /changes': () => refuse('Ann accepted it meanwhile.') });
    await screen.findByText(/W1/);
    await userEvent.click(lineOf(/W1/).getByRole('button', { name: 'Accept' }));
    await userEvent.type(screen.getByRole('textbox', { name: 'Reason' }), 'Two leaves of one wall{Enter}');
    expect(await screen.findByText(/Ann accepted it meanwhile\./)).toBeTruthy();
    expect((screen.getByRole('textbox', { name: 'Reason' }) as HTMLInputElement).value).toBe('Two leaves of one wall');
  }, 30_000);
});
