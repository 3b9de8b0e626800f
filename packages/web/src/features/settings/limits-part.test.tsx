/** @jest-environment jsdom */
import type { ElementTable } from '@tally/core';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type Answers, refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleWalls } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { LimitsPart } from './limits-part.tsx';

/** The ground floor lies at 0 m, the upper floor at 3.2 m. */
const table: ElementTable = {
  ...sampleWalls(),
  storeys: [0, 3.2].map((elevation, i) => ({ name: i === 0 ? 'Ground floor' : 'Upper floor', elevation, gfa: null, gfaMethod: null })) as unknown as ElementTable['storeys'],
}; // biome-ignore format: one table
const DONE: Answers = { 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }) };
const keep = () => screen.getByRole('button', { name: 'Keep the limit' }) as HTMLButtonElement;

async function begin(answers: Answers = DONE) {
  const drawn = renderInProject(<LimitsPart />, answers, sampleState({ sources: [sampleSource] }));
  serveTable(table);
  await userEvent.click(screen.getByRole('button', { name: 'Add a limit' }));
  await userEvent.type(screen.getByLabelText('Name of the limit'), 'Plinth');
  return drawn;
}
async function choose(label: string, storey: string, offset: string) {
  await userEvent.click(screen.getByLabelText(`${label} the level of`));
  await userEvent.click(await screen.findByRole('option', { name: storey }));
  const plus = screen.getByLabelText(`${label}: plus`);
  await userEvent.clear(plus);
  await userEvent.type(plus, offset);
}

describe('a part of the building that quantities are limited to', () => {
  it('is kept with both bounds, in metres', async () => {
    const { posted } = await begin();
    await choose('Above', 'Ground floor', '-20 cm');
    await choose('Below', 'Ground floor', '30 cm');
    await userEvent.click(keep());
    await waitFor(() => expect(posted()).toHaveLength(1));
    const { diff } = posted()[0]!.body as { diff: { added: { body: unknown }[] } };
    expect(diff.added[0]!.body).toEqual({
      name: 'Plinth',
      above: { storey: 'Ground floor', offsetM: -0.2 },
      below: { storey: 'Ground floor', offsetM: 0.3 },
    });
    await waitFor(() => expect(screen.queryByLabelText('Name of the limit')).toBeNull());
  }, 30_000);
  it('is not kept with one bound only because the other cannot be read', async () => {
    await begin();
    await choose('Above', 'Ground floor', '0 m');
    expect(keep().disabled).toBe(false);
    await choose('Below', 'Upper floor', 'half a metre');
    expect(keep().disabled).toBe(true);
  }, 30_000);
  it('is not kept where nothing lies between its bounds', async () => {
    await begin();
    await choose('Above', 'Upper floor', '0 m');
    await choose('Below', 'Ground floor', '3 m');
    expect(screen.getByRole('alert').textContent).toMatch(/Nothing lies between/);
    expect(keep().disabled).toBe(true);
    await choose('Below', 'Ground floor', '3.5 m');
    expect(screen.queryByRole('alert')).toBeNull();
    expect(keep().disabled).toBe(false);
  }, 30_000);
  it('that is refused stays as it was typed', async () => {
    const { posted } = await begin({ 'POST /changes': () => refuse('Ann made one of this name meanwhile.') });
    await choose('Below', 'Ground floor', '30 cm');
    await userEvent.click(keep());
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(await screen.findByText(/Ann made one of this name meanwhile\./)).toBeTruthy();
    expect((screen.getByLabelText('Name of the limit') as HTMLInputElement).value).toBe('Plinth');
    expect((screen.getByLabelText('Below: plus') as HTMLInputElement).value).toBe('30 cm');
  }, 30_000);
});
