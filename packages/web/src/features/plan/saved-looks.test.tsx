/** @jest-environment jsdom */
import type { PlanView } from '@tally/core';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { READY_LOOKS } from './plan-view.ts';
import { SavedLooks } from './saved-looks.tsx';

function open(view: PlanView, planViews: Record<string, PlanView> = {}) {
  const chosen: PlanView[] = [];
  const drawn = renderInProject(
    <SavedLooks ready={READY_LOOKS} view={view} onChoose={(next) => chosen.push(next)} />,
    { 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }) },
    sampleState({ planViews }),
  );
  return { ...drawn, chosen };
}
const change = (posted: ReturnType<ReturnType<typeof open>['posted']>) =>
  posted.findLast((p) => p.what === 'POST /changes')?.body;

describe('ways to look at the plan', () => {
  it('are called what they are: ready ones, saved ones, one’s own', () => {
    open({ by: ['room', 'section'] });
    expect(screen.getByRole('button', { name: 'By room' })).toBeTruthy();
    open({ by: ['room', 'section'], rows: 'cell' });
    expect(screen.getByRole('button', { name: 'Own breakdown' })).toBeTruthy();
    open({ by: ['zone'] }, { 'For the client': { by: ['zone'] } });
    expect(screen.getByRole('button', { name: 'For the client' })).toBeTruthy();
  });
  it('are chosen, kept under a name, and taken away', async () => {
    const user = userEvent.setup();
    const { chosen, posted } = open({ by: ['zone'] }, { Old: { by: ['kind'] } });
    await user.click(screen.getByRole('button', { name: 'Own breakdown' }));
    await user.click(await screen.findByRole('menuitem', { name: /^Old/ }));
    expect(chosen).toEqual([{ by: ['kind'] }]);
    await user.click(screen.getByRole('button', { name: 'Own breakdown' }));
    await user.type(await screen.findByRole('textbox', { name: 'Name of this view' }), ' Zones {Enter}');
    await waitFor(() => expect(change(posted())).toMatchObject({ diff: { added: [{ kind: 'planView', id: 'Zones', body: { by: ['zone'] } }] } })); // biome-ignore format: one body
    await user.click(await screen.findByRole('button', { name: 'Own breakdown' }));
    await user.click(await screen.findByRole('button', { name: 'Take Old away' }));
    await waitFor(() =>
      expect(change(posted())).toMatchObject({ diff: { removed: [{ kind: 'planView', id: 'Old' }] } }),
    );
  }, 30_000);
});
