/** @jest-environment jsdom */
import type { GroupField } from '@tally/core';
import { act, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { renderThemed } from '../../testing/in-project.tsx';
import { PlanLevels } from './plan-levels.tsx';

function Levels({ first }: { readonly first: readonly GroupField[] }) {
  const [levels, setLevels] = useState(first);
  return <PlanLevels levels={levels} fields={['section', 'storey', 'room', 'kind']} onChange={setLevels} />;
}
const shown = () => screen.getAllByRole('button', { name: /^Level/ }).map((b) => b.textContent);

it('levels are moved with the arrows, taken away, changed and added by keys alone', async () => {
  const user = userEvent.setup();
  renderThemed(<Levels first={['section', 'storey']} />);
  act(() => screen.getByRole('button', { name: 'Level 1 of 2: Work section' }).focus());
  await user.keyboard('{ArrowRight}');
  expect(shown()).toEqual(['Storey', 'Work section']);
  act(() => screen.getByRole('button', { name: 'Level 2 of 2: Work section' }).focus());
  await user.keyboard('{Delete}');
  expect(shown()).toEqual(['Storey']);
  await user.click(screen.getByRole('button', { name: 'Level 1 of 1: Storey' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Room' }));
  expect(shown()).toEqual(['Room']);
  await user.click(screen.getByRole('button', { name: 'Group by one more' }));
  // What it is grouped by already is not offered again.
  expect(screen.queryByRole('menuitem', { name: 'Room' })).toBeNull();
  await user.click(await screen.findByRole('menuitem', { name: 'Kind of cost' }));
  expect(shown()).toEqual(['Room', 'Kind of cost']);
}, 30_000);
