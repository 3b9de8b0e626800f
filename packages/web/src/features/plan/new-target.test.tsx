/** @jest-environment jsdom */
import type { PlanDto, Target } from '@tally/core';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { NewTarget } from './new-target.tsx';
import { PercentBaseButton } from './percent-base.tsx';

const groups = (...labels: string[]) => ({
  body: { groups: labels.map((label) => ({ label })) } as unknown as PlanDto,
});
const whole: Target = { amount: '3000' };

/** The plan by storey comes only when it is let. */
function openSlow(content: React.ReactNode, answers = {}) {
  let release = () => {};
  const gate = new Promise<void>((done) => {
    release = done;
  });
  const read = { storey: async () => gate.then(() => groups('Roof')), section: () => groups('Fittings') };
  const bySection = `GET /plan?view=${encodeURIComponent('{"by":["section"]}')}`;
  const byStorey = `GET /plan?view=${encodeURIComponent('{"by":["storey"]}')}`;
  const first = sampleState();
  const drawn = renderInProject(content, {
    [bySection]: read.section,
    [byStorey]: read.storey,
    'GET /plan': () => groups(),
    'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }),
    ...answers,
  }, { ...first, summary: { ...first.summary, building: { ...first.summary.building, units: [{ name: 'boat rack', count: 24 }] } } }); // biome-ignore format: one call
  return { ...drawn, release };
}
const choose = async (user: ReturnType<typeof userEvent.setup>, field: string, option: string) => {
  await user.click(screen.getByRole('combobox', { name: field }));
  await user.click(await screen.findByRole('option', { name: option }));
};

describe('a new target', () => {
  it('of a group per unit is sent as it was said', async () => {
    const user = userEvent.setup();
    const { posted } = openSlow(<NewTarget known={[whole]} />);
    await choose(user, 'Group', 'Fittings');
    await user.type(screen.getByRole('textbox', { name: 'Target amount' }), '150');
    await choose(user, 'Target per', 'per boat rack');
    await user.click(screen.getByRole('button', { name: 'Set target' }));
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(posted()[0]!.body).toMatchObject({
      cause: 'Target for Work section Fittings: 150',
      diff: { added: [{ kind: 'target', body: { by: 'section', is: 'Fittings', per: 'unit', counted: 'boat rack', amount: '150' } }] },
    }); // biome-ignore format: one change
  }, 30_000);
  it('offers no groups of another field while its own are on their way', async () => {
    const user = userEvent.setup();
    const { release } = openSlow(<NewTarget known={[whole]} />);
    await user.click(screen.getByRole('combobox', { name: 'Group' }));
    expect(await screen.findByRole('option', { name: 'Fittings' })).toBeTruthy();
    await user.keyboard('{Escape}');
    await choose(user, 'Target of', 'Storey');
    await user.click(screen.getByRole('combobox', { name: 'Group' }));
    expect(screen.queryByRole('option', { name: 'Fittings' })).toBeNull();
    release();
    expect(await screen.findByRole('option', { name: 'Roof' })).toBeTruthy();
  }, 30_000);
  it('is refused without a group, twice for the same, and for what is no amount; a refusal of the server stays too', async () => {
    const user = userEvent.setup();
    const { posted } = openSlow(<NewTarget known={[whole]} />, { 'POST /changes': () => refuse('Not now.') });
    const amount = screen.getByRole('textbox', { name: 'Target amount' });
    await user.type(amount, '100{Enter}');
    expect((await screen.findByRole('alert')).textContent).toContain('Say which group');
    await choose(user, 'Target of', 'The whole');
    await user.type(amount, '{Enter}');
    expect(screen.getByRole('alert').textContent).toContain('It has a target already');
    expect(posted()).toEqual([]);
    await choose(user, 'Target of', 'Work section');
    await choose(user, 'Group', 'Fittings');
    await user.type(amount, '{Enter}');
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('Not now.'));
    expect((amount as HTMLInputElement).value).toBe('100');
  }, 30_000);
});

describe('what a per cent is of', () => {
  it('is never offered a group of another field', async () => {
    const user = userEvent.setup();
    const of = { groups: [{ by: 'section', is: 'Fittings' }] };
    const { release } = openSlow(
      <PercentBaseButton allowance={{ code: 'RISK', name: 'Risk', measure: 'percent', amount: 5, of }} others={[]} onKeep={() => undefined} />,
    ); // biome-ignore format: one part
    await user.click(screen.getByRole('button', { name: 'Fittings' }));
    await choose(user, 'Risk is of', 'Storey');
    release();
    await user.click(screen.getByRole('combobox', { name: 'Group of Risk' }));
    expect(await screen.findByRole('option', { name: 'Roof' })).toBeTruthy();
    expect(screen.queryByRole('option', { name: 'Fittings' })).toBeNull();
  }, 30_000);
});
