/** @jest-environment jsdom */
import type { ToldSection } from '@tally/core';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderInProject } from '../../testing/in-project.tsx';
import { DecisionSection } from './decision-section.tsx';

const told = (more: Partial<ToldSection>): ToldSection => ({
  section: 'fit',
  winner: null,
  others: [],
  why: null,
  parts: [],
  ...more,
});
const by = (id: string, name: string) => ({ kind: 'order' as const, id, name, rank: 3 });
const open = (decisions: readonly ToldSection[]) =>
  renderInProject(<DecisionSection elementKey={5} />, {
    'GET /elements/5/cost': () => ({ body: { key: 5, state: 'priced', amount: 0, leftOut: null, openParts: [], lines: [], decisions } }),
  }); // biome-ignore format: one call

describe('what decides about an element', () => {
  it('is told with its work section, and leads to the rule; who lost is opened', async () => {
    const user = userEvent.setup();
    open([told({ winner: by('lockers', 'Lockers'), others: [{ ...by('all', 'All furniture'), lost: 'Lockers comes before it.' }] })]); // biome-ignore format: one call
    const link = await screen.findByRole('link', { name: 'Lockers' });
    expect(link.getAttribute('href')).toBe('/projects/p/mapping?rule=lockers');
    expect(screen.getByText('Fittings')).toBeTruthy();
    expect(screen.queryByText(/comes before it/)).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Another catches it too' }));
    expect(screen.getByText(/Lockers comes before it\./)).toBeTruthy();
  }, 20_000);
  it('says why it is not priced, and who decides about its parts', async () => {
    open([
      told({ why: { code: 'left-out', message: 'Left out: By others' }, winner: by('out', 'Out') }),
      told({ section: 'paint', parts: [{ part: 'layer Board', winner: by('boards', 'Boards'), others: [] }] }),
    ]);
    expect(await screen.findByText('Left out: By others')).toBeTruthy();
    const part = screen.getByText(/layer Board/);
    expect(within(part).getByRole('link', { name: 'Boards' })).toBeTruthy();
  }, 20_000);
  it('says that nothing does', async () => {
    open([told({ why: { code: 'nothing-catches', message: 'No pin and no rule of this section catches it.' } })]);
    expect(await screen.findByText('No rule and no pin catches it.')).toBeTruthy();
  }, 20_000);
});
