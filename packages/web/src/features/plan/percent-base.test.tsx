/** @jest-environment jsdom */
import type { Allowance, PlanDto } from '@tally/core';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderInProject } from '../../testing/in-project.tsx';
import { PercentBaseButton } from './percent-base.tsx';

const GROUPS = { groups: [{ label: 'Fittings' }, { label: 'Yard' }] } as unknown as PlanDto;
function open(of?: Allowance['of']) {
  const kept: Allowance['of'][] = [];
  const allowance: Allowance = { code: 'RISK', name: 'Risk', measure: 'percent', amount: 5, of };
  renderInProject(
    <PercentBaseButton allowance={allowance} others={['SITE', 'BOND']} onKeep={(next) => kept.push(next)} />,
    {
      'GET /plan': () => ({ body: GROUPS }),
    },
  );
  return kept;
}

describe('what a per cent is of', () => {
  it('is said on its button: all costs, or those of a group', () => {
    open();
    expect(screen.getByRole('button', { name: 'of all' }).closest('[title]')!.getAttribute('title')).toBe('Of all costs but per cents'); // biome-ignore format: short
  });
  it('is chosen among the groups that the plan has', async () => {
    const user = userEvent.setup();
    const kept = open();
    await user.click(screen.getByRole('button', { name: 'of all' }));
    await user.click(screen.getByRole('combobox', { name: 'Risk is of' }));
    await user.click(await screen.findByRole('option', { name: 'Work section' }));
    await user.click(screen.getByRole('combobox', { name: 'Group of Risk' }));
    await user.click(await screen.findByRole('option', { name: 'Yard' }));
    expect(kept.at(-1)).toEqual({ groups: [{ by: 'section', is: 'Yard' }] });
  }, 20_000);
  it('goes on top of others where one says so, and back to all costs in one step', async () => {
    const user = userEvent.setup();
    const kept = open({ groups: [{ by: 'section', is: 'Yard' }], also: ['BOND'] });
    await user.click(screen.getByRole('button', { name: 'Yard' }));
    await user.click(screen.getByRole('checkbox', { name: 'SITE' }));
    expect(kept.at(-1)).toEqual({ groups: [{ by: 'section', is: 'Yard' }], also: ['BOND', 'SITE'] });
    await user.click(screen.getByRole('checkbox', { name: 'BOND' }));
    expect(kept.at(-1)).toEqual({ groups: [{ by: 'section', is: 'Yard' }] });
    await user.click(screen.getByRole('button', { name: 'Of all costs again' }));
    expect(kept.at(-1)).toBeUndefined();
  }, 20_000);
});
