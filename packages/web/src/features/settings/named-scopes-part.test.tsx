/** @jest-environment jsdom */
import { type Condition, resolveScope } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { NamedScopesPart } from './named-scopes-part.tsx';

const SCOPES = [
  { id: 'fit', name: 'Fittings', scope: { field: 'class', op: 'is', value: 'IfcFurniture' } as Condition },
  { id: 'spare', name: 'Spare', scope: { field: 'class', op: 'is', value: 'IfcDoor' } as Condition },
];
const first = sampleState();
const STATE = {
  ...first,
  basis: { ...first.basis, scopes: SCOPES, rules: first.basis.rules.map((r) => ({ ...r, scope: resolveScope({ named: 'fit' }, SCOPES) })) },
} as typeof first; // biome-ignore format: one state
const done = { 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }) };

describe('named scopes', () => {
  it('say what they mean and whether they are used; one that is used is not removed', async () => {
    const user = userEvent.setup();
    const { posted } = renderInProject(<NamedScopesPart />, done, STATE);
    expect(screen.getByText('class is Furniture, used once')).toBeTruthy();
    const [used, spare] = screen.getAllByRole('button', { name: 'Remove' }) as HTMLButtonElement[];
    expect([used!.disabled, spare!.disabled]).toEqual([true, false]);
    await user.click(spare!);
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(posted()[0]!.body).toMatchObject({
      cause: 'Named scope removed: Spare',
      diff: { removed: [{ kind: 'scope', id: 'spare', body: SCOPES[1] }] },
    });
  }, 20_000);
  it('are changed under their own id, and take no name that there is', async () => {
    const user = userEvent.setup();
    const { posted } = renderInProject(<NamedScopesPart />, done, STATE);
    await user.click(screen.getAllByRole('button', { name: 'Change' })[0]!);
    const name = screen.getByRole('textbox', { name: 'Name of the scope' });
    const keep = screen.getByRole('button', { name: 'Keep the scope' }) as HTMLButtonElement;
    await user.clear(name);
    await user.type(name, 'Spare');
    expect(keep.disabled).toBe(true);
    await user.clear(name);
    await user.type(name, 'Loose furniture');
    await user.click(keep);
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(posted()[0]!.body).toMatchObject({
      diff: { updated: [{ kind: 'scope', id: 'fit', from: SCOPES[0], to: { ...SCOPES[0], name: 'Loose furniture' } }] },
    });
    await waitFor(() => expect(within(document.body).queryByRole('textbox', { name: 'Name of the scope' })).toBeNull());
  }, 20_000);
});
