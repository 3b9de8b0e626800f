/** @jest-environment jsdom */
import type { ElementCostDto, ExplainedLine, Pin, PlanLine } from '@tally/core';
import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect, useState } from 'react';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { LineActs } from './line-acts.tsx';

const LINE = { item: 'M-LOCK', section: 'fit', unit: 'each', open: 0 } as PlanLine;
const lineOf = (rule: string | null): ExplainedLine => ({ code: 'M-LOCK', section: 'fit', rule, part: null }) as unknown as ExplainedLine; // biome-ignore format: one line
const cost = (key: number, rule: string | null = 'lockers') => ({ key, lines: [lineOf(rule)], decisions: [] }) as unknown as ElementCostDto; // biome-ignore format: one answer

const first = sampleState();
const BASIS = {
  ...first.basis,
  items: [
    ...first.basis.items,
    { code: 'M-BOX', description: 'Box, oak', kind: 'material' as const, unit: 'each', rate: '90.00' },
  ],
  sections: [...first.basis.sections, { id: 'yard', name: 'Yard' }],
};

function open(elementKey: number | null, answers = {}, pins: Pin[] = []) {
  const drawn = renderInProject(
    <LineActs line={LINE} elementKey={elementKey} />,
    {
      'GET /elements/12/cost': () => ({ body: cost(12) }),
      'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }),
      ...answers,
    },
    { ...first, basis: { ...BASIS, pins }, summary: { ...first.summary, priced: { lockers: 24 } } },
  );
  return { ...drawn, sent: () => drawn.posted().at(-1)?.body as { cause: string; diff: Record<string, unknown[]> } | undefined }; // biome-ignore format: one record
}
const pick = async (user: ReturnType<typeof userEvent.setup>, field: string | RegExp, option: string | RegExp) => {
  await user.click(await screen.findByRole('combobox', { name: field }));
  await user.click(await screen.findByRole('option', { name: option }));
};

describe('a note on a line', () => {
  it('is kept for its section and item, and stays open where it is refused', async () => {
    let isRefused = true;
    const user = userEvent.setup();
    const { sent } = open(null, {
      'POST /changes': () => (isRefused ? refuse('Not now.') : { body: { projectId: 'p', seq: 8, move: null } }),
    });
    await user.click(screen.getByRole('button', { name: 'Note' }));
    await user.type(screen.getByLabelText('Note on this line'), 'Ask for a second offer');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect((await screen.findByRole('alert')).textContent).toContain('Not now.');
    expect(screen.getByLabelText<HTMLTextAreaElement>('Note on this line').value).toBe('Ask for a second offer');
    isRefused = false;
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    await waitFor(() => expect(screen.queryByLabelText('Note on this line')).toBeNull());
    expect(sent()!.diff.added).toMatchObject([{ kind: 'note', id: 'fit|M-LOCK', body: { text: 'Ask for a second offer' } }]); // biome-ignore format: one change
  }, 20_000);
});

describe('another section for a line', () => {
  it('takes along what the same rule prices, and says how many that are', async () => {
    const user = userEvent.setup();
    const { sent } = open(12);
    await user.click(screen.getByRole('button', { name: 'Another section' }));
    expect(await screen.findByText('Of the rule Lockers: all 24 elements that it prices go along.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Move' }));
    expect(screen.getByRole('alert').textContent).toBe('Choose the section.');
    await pick(user, 'Another section', 'Yard');
    await user.click(screen.getByRole('button', { name: 'Move' }));
    await waitFor(() => expect(sent()?.diff.updated).toMatchObject([{ kind: 'rule', id: 'lockers', to: { section: 'yard' } }])); // biome-ignore format: one change
  }, 20_000);
  it('is not offered by what decides about another element, while one’s own is on its way', async () => {
    const user = userEvent.setup();
    let release = () => {};
    const gate = new Promise<void>((done) => {
      release = done;
    });
    // What prices element 13 is another rule, and comes late.
    const { again } = withSecond({
      'GET /elements/13/cost': async () => gate.then(() => ({ body: cost(13, null) })),
    });
    await user.click(screen.getByRole('button', { name: 'Another section' }));
    await screen.findByText(/Of the rule Lockers/);
    again(13);
    expect(screen.queryByText(/Of the rule Lockers/)).toBeNull();
    release();
    expect(await screen.findByText(/It is priced by itself/)).toBeTruthy();
  }, 20_000);
});

function Switch({ onReady }: { readonly onReady: (set: (key: number) => void) => void }) {
  const [key, setKey] = useState(12);
  useEffect(() => onReady(setKey), [onReady]);
  return <LineActs line={LINE} elementKey={key} />;
}

/** The acts of a line first with element 12, then with another. */
function withSecond(answers = {}) {
  let show: (key: number) => void = () => undefined;
  const drawn = renderInProject(
    <Switch onReady={(set) => { show = set; }} />,
    { 'GET /elements/12/cost': () => ({ body: cost(12) }), 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }), ...answers },
    { ...first, basis: BASIS, summary: { ...first.summary, priced: { lockers: 24 } } },
  ); // biome-ignore format: one call
  return { ...drawn, again: (key: number) => act(() => show(key)) };
}

describe('another item in place of a line’s', () => {
  it('is of the same unit, and said where: here, everywhere, or on one element', async () => {
    const user = userEvent.setup();
    const { sent } = open(null);
    await user.click(screen.getByRole('button', { name: 'Another item' }));
    await user.click(screen.getByRole('button', { name: 'Put in its place' }));
    expect(screen.getByRole('alert').textContent).toBe('Choose the item that takes its place.');
    await user.click(screen.getByRole('combobox', { name: 'In place of M-LOCK, in each' }));
    // The carpenter is counted in hours.
    expect((await screen.findAllByRole('option')).map((o) => o.textContent)).toEqual(['M-BOX Box, oak']);
    await user.click(screen.getByRole('option', { name: /M-BOX/ }));
    await user.click(screen.getByRole('button', { name: 'Put in its place' }));
    await waitFor(() => expect(sent()?.diff.added).toEqual([{ kind: 'swap', id: 'fit|M-LOCK', body: { from: 'M-LOCK', to: 'M-BOX', section: 'fit' } }])); // biome-ignore format: one change
  }, 20_000);
  it('on one element is a decision of its own, with what its rule says', async () => {
    const user = userEvent.setup();
    const { sent } = open(12);
    await user.click(screen.getByRole('button', { name: 'Another item' }));
    await pick(user, 'In place of M-LOCK, in each', /M-BOX/);
    await pick(user, 'Where', 'On the chosen element only');
    await user.click(screen.getByRole('button', { name: 'Put in its place' }));
    await waitFor(() => expect(sent()?.diff.added).toMatchObject([{ kind: 'pin', id: 'swap-12-fit', body: { element: 12, section: 'fit', item: 'M-LOCK', driver: 'Count', swaps: { 'M-LOCK': 'M-BOX' } } }])); // biome-ignore format: one change
  }, 20_000);
});
