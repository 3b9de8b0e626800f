/** @jest-environment jsdom */
import type { ChangeDto } from '@tally/core';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { Tape } from './tape.tsx';

const change = (seq: number, cause: string, move: number | null, isUndone = false): ChangeDto => ({
  id: seq,
  projectId: 'p',
  seq,
  author: 'Ann',
  cause,
  undoes: null,
  isUndone,
  at: '2026-03-02T08:00:00.000Z',
  entryCount: 1,
  isRevision: false,
  option: null,
  move: move === null ? null : { before: 0, after: move, move, causes: { extent: 0, quantity: 0, mapping: 0, price: move, factors: 0, rounding: 0 } }, // biome-ignore format: one move
});
const answers = {
  'GET /changes': () => ({ body: [change(9, 'Still being worked out', null), change(8, 'Rate of M-LOCK 128.00 > 126.00', -4800), change(7, 'Rate of L-CAR', 0, true)] }), // biome-ignore format: one answer
};

describe('the tape', () => {
  it('tells the total, what is open, and the last moves with their sign, the newest first', async () => {
    renderInProject(<Tape />, answers);
    expect(screen.getByTestId('tape-total').textContent).toBe('3,072.00');
    expect(screen.getByTestId('tape-open').textContent).toBe('Not fully priced3 of 27');
    expect(screen.getByText('Nothing selected')).toBeTruthy();
    const moves = (await screen.findAllByRole('listitem')).map((li) => li.textContent);
    expect(moves[0]).toMatch(/^Still being worked out.*…$/);
    expect(moves[1]).toMatch(/−48\.00$/);
    expect(moves[2]).toMatch(/0\.00$/);
  });
  it('is narrowed to its figures; each still says and opens what it was', async () => {
    const user = userEvent.setup();
    renderInProject(<Tape />, answers);
    await user.click(screen.getByRole('button', { name: 'Only the figures of the tape' }));
    const link = await screen.findByRole('link', { name: 'Rate of M-LOCK 128.00 > 126.00: −48.00' });
    expect([link.textContent, link.getAttribute('href')]).toEqual(['−48.00', '/projects/p/changes?seq=8']);
    expect(screen.getByTestId('tape-total').textContent).toBe('3,072.00');
    await user.click(screen.getByRole('button', { name: 'The whole tape' }));
    expect(screen.getByText('Nothing selected')).toBeTruthy();
  });
  it('says so where the total leaves something out, or cannot be told to the cent', () => {
    const first = sampleState();
    const shortfall = { open: 3, of: 27, unknown: 0, kinds: [{ ifcClass: 'IfcDoor', count: 3 }], isTooLarge: false };
    const { come } = renderInProject(<Tape />, {}, { ...first, summary: { ...first.summary, shortfall } });
    expect(screen.getByText('Total so far')).toBeTruthy();
    expect(screen.getByTestId('tape-open').getAttribute('title')).toBe('3 Door');
    come({ ...first, summary: { ...first.summary, shortfall: { ...shortfall, isTooLarge: true } } });
    expect(screen.getByText('Total not exact')).toBeTruthy();
  });
});
