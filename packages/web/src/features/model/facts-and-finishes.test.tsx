/** @jest-environment jsdom */
import { buildElementTable } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleLayer } from '../../testing/sample-layer.ts';
import { sampleElement } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { FactSection } from './fact-section.tsx';
import { WallFinishList } from './wall-finish-list.tsx';

const table = () =>
  buildElementTable(
    [
      sampleElement('w1', 'Wall 1', 'IfcWall', 'Ground floor', { typeName: 'Brick' }),
      sampleElement('w2', 'Wall 2', 'IfcWall', 'Loft', { typeName: 'Brick' }),
      sampleElement('room', 'Shower', 'IfcSpace', 'Ground floor'),
    ],
    Int32Array.of(11, 12, 13),
    { storeys: ['Ground floor', 'Loft'].map((name, i) => ({ name, elevation: i * 3, gfa: null, gfaMethod: null })) },
  );
const DONE = { body: { projectId: 'p', seq: 8, move: null } };
function open(part: ReactNode, layer = {}, answer: () => { body: unknown; status?: number } | Promise<{ body: unknown }> = () => DONE) {
  const drawn = renderInProject(part, { 'POST /changes': answer }, sampleState({ sources: [sampleSource], layer: sampleLayer(layer) }));
  serveTable(table());
  return { ...drawn, sent: () => drawn.posted().filter((p) => p.what === 'POST /changes').map((p) => p.body as { cause: string; diff: Record<string, unknown[]> }) };
} // biome-ignore format: one helper
const fact = (label: RegExp) => screen.findByRole<HTMLInputElement>('combobox', { name: label }, { timeout: 8000 });

describe('facts that the file may have wrong', () => {
  it('of several elements say what they share, and that the rest differs', async () => {
    open(<FactSection keys={[11, 12]} />);
    await waitFor(async () => expect((await fact(/^type/i)).value).toBe('Brick'), { timeout: 8000 });
    expect((await fact(/^storey/i)).value).toBe('several');
    expect((await fact(/^class/i)).value).toBe('Wall');
  }, 20_000);
  it('are said once, though the field is chosen in and then left', async () => {
    let release = () => {};
    const gate = new Promise<void>((done) => {
      release = done;
    });
    const { sent } = open(<FactSection keys={[11]} />, {}, () => gate.then(() => DONE));
    await waitFor(async () => expect((await fact(/^storey/i)).value).toBe('Ground floor'), { timeout: 8000 });
    const field = await fact(/^storey/i);
    await userEvent.clear(field);
    await userEvent.type(field, 'Lo');
    await userEvent.click(await screen.findByRole('option', { name: 'Loft' }));
    await userEvent.tab();
    await waitFor(() => expect(sent()).toHaveLength(1));
    release();
    await new Promise((done) => setTimeout(done, 50));
    expect(sent()).toHaveLength(1);
    expect(sent()[0]!.diff.added).toMatchObject([{ kind: 'facts', id: '11', body: { storey: 'Loft' } }]);
  }, 30_000);
  it('left as they are shown change nothing', async () => {
    const { sent } = open(<FactSection keys={[11]} />);
    await waitFor(async () => expect((await fact(/^class/i)).value).toBe('Wall'), { timeout: 8000 });
    await userEvent.click(await fact(/^class/i));
    await userEvent.tab();
    expect(sent()).toEqual([]);
  }, 20_000);
  it('corrected here are marked with what the file has, and taken back in one step', async () => {
    const { sent } = open(<FactSection keys={[11]} />, {
      facts: { '11': { storey: 'Loft', by: 'Ada', at: '2026-05-01' } },
    });
    await waitFor(async () => expect((await fact(/^storey.*given here/i)).value).toBe('Loft'), { timeout: 8000 });
    await waitFor(() => expect(screen.getByText('in the file: Ground floor')).toBeTruthy(), { timeout: 8000 });
    expect(screen.getByText('corrected by Ada, 2026-05-01')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'As in the file' }));
    await waitFor(() => expect(sent()[0]?.diff.removed).toMatchObject([{ kind: 'facts', id: '11' }]));
  }, 20_000);
});

describe('finishes on a part of the walls', () => {
  const tiles = { finish: 'Tiles', toM: 2 };
  const paint = { finish: 'Paint' };
  const add = async (finish: string, from: string, to: string) => {
    const user = userEvent.setup();
    await user.click(screen.getByRole('button', { name: 'Another finish on a part of the walls' }));
    await user.type(screen.getByRole('combobox', { name: 'Finish of the part' }), finish);
    if (from) await user.type(screen.getByLabelText('From'), from);
    if (to) await user.type(screen.getByLabelText('Up to'), to);
  };
  const keepButton = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Keep the part' });
  it('are kept with their heights, behind those that are there', async () => {
    const { sent } = open(<WallFinishList keys={[13]} finishes={['Tiles']} />, { wallFinishes: { '13': [paint] } });
    await add('Tiles', '0.5', '2 m');
    await userEvent.click(keepButton());
    await waitFor(() => expect(sent()[0]?.diff.updated).toMatchObject([{ kind: 'wallFinishes', id: '13', to: [paint, { finish: 'Tiles', fromM: 0.5, toM: 2 }] }])); // biome-ignore format: one change
    await waitFor(() => expect(screen.queryByLabelText('Up to')).toBeNull());
  }, 30_000);
  it('that end below where they begin, or are no heights, cannot be kept', async () => {
    open(<WallFinishList keys={[13]} finishes={[]} />);
    await add('Tiles', '3', '2');
    expect(screen.getByText('It ends below where it begins.')).toBeTruthy();
    expect(keepButton().disabled).toBe(true);
    await userEvent.clear(screen.getByLabelText('From'));
    expect(keepButton().disabled).toBe(false);
    await userEvent.clear(screen.getByLabelText('Up to'));
    await userEvent.type(screen.getByLabelText('Up to'), 'high');
    expect(keepButton().disabled).toBe(true);
  }, 30_000);
  it('that the server refuses stay as they were typed', async () => {
    open(<WallFinishList keys={[13]} finishes={[]} />, {}, () => refuse('Not now.'));
    await add('Tiles', '', '2');
    await userEvent.click(keepButton());
    expect(await screen.findByText(/Not now\./)).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Up to').value).toBe('2');
  }, 30_000);
  it('are moved before one another and taken away', async () => {
    const { sent } = open(<WallFinishList keys={[13]} finishes={[]} />, { wallFinishes: { '13': [paint, tiles] } });
    const group = screen.getByRole('group', { name: 'Walls in parts' });
    expect(group.textContent).toMatch(/Paint everywhere.*Tiles up to 2\.00\d? m/);
    await userEvent.click(within(group).getByRole('button', { name: 'Before' }));
    await waitFor(() => expect(sent()[0]?.diff.updated).toMatchObject([{ to: [tiles, paint] }]));
    await userEvent.click(within(group).getByRole('button', { name: 'Take Tiles away' }));
    await waitFor(() => expect(sent()[1]?.diff.updated).toMatchObject([{ to: [paint] }]));
  }, 20_000);
  it('of rooms that differ say so: one added replaces theirs', async () => {
    const { sent } = open(<WallFinishList keys={[13, 14]} finishes={[]} />, { wallFinishes: { '13': [paint] } });
    expect(screen.getByText(/The walls of these rooms differ/)).toBeTruthy();
    await add('Tiles', '', '2');
    await userEvent.click(keepButton());
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(sent()[0]!.diff).toMatchObject({
      updated: [{ id: '13', to: [tiles] }],
      added: [{ id: '14', body: [tiles] }],
    });
  }, 30_000);
});
