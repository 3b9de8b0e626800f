/** @jest-environment jsdom */
import type { ChangeDto, ProjectStateDto } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { RuleList } from './rule-list.tsx';

const done = (seq: number): { body: ChangeDto } => ({
  body: { id: seq, projectId: 'p', seq, author: 'Ann', cause: '', undoes: null, isUndone: false, at: '', entryCount: 1, isRevision: false,
  option: null, move: null }, // biome-ignore format: one answer
});
const renamed = (state: ProjectStateDto, name: string): ProjectStateDto => ({
  ...state,
  basis: { ...state.basis, rules: state.basis.rules.map((r) => ({ ...r, name })) },
});
const nameField = () => screen.getByRole('textbox', { name: 'Name' });
const saveButton = () => screen.getByRole('button', { name: 'Save the rule' }) as HTMLButtonElement;

describe('the rules', () => {
  it('say in words what they catch, and how many', () => {
    renderInProject(<RuleList choice={null} />);
    const row = screen.getByRole('row', { name: 'Lockers' });
    expect(within(row).getByText('class is Furniture')).toBeTruthy();
    expect(within(row).getAllByText('24')).toHaveLength(2);
  });
  it('stay open with what was typed when the server says no, and close when it says yes', async () => {
    const user = userEvent.setup();
    let isRefused = true;
    const { posted } = renderInProject(<RuleList choice={null} />, {
      'POST /changes': () => (isRefused ? refuse('Ann changed the same thing meanwhile.') : done(8)),
    });
    await user.click(screen.getByText('Lockers'));
    await user.clear(nameField());
    await user.type(nameField(), 'Lockers of steel');
    await user.click(saveButton());
    const alert = await within(screen.getByRole('dialog')).findByText(/Ann changed the same thing meanwhile/);
    expect(alert).toBeTruthy();
    expect((nameField() as HTMLInputElement).value).toBe('Lockers of steel');
    isRefused = false;
    await user.click(saveButton());
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(posted().map((p) => p.what)).toEqual(['POST /changes', 'POST /changes']);
    expect(posted()[1]!.body).toMatchObject({
      base: 7,
      cause: 'Rule changed: Lockers of steel',
      diff: { updated: [{ kind: 'rule', id: 'lockers', to: { name: 'Lockers of steel' } }] },
    });
  }, 30_000);
  it('take in what only somebody else changed, and ask about what both did', async () => {
    const user = userEvent.setup();
    const first = sampleState();
    const { come, posted } = renderInProject(<RuleList choice={null} />, { 'POST /changes': () => done(9) }, first);
    await user.click(screen.getByText('Lockers'));
    await user.clear(nameField());
    await user.type(nameField(), 'Mine');
    const [rule] = first.basis.rules;
    come({ ...first, basis: { ...first.basis, rules: [{ ...rule!, name: 'Theirs', driver: 'Count * 2' }] } });
    expect(await screen.findByText(/Somebody else changed driver meanwhile/)).toBeTruthy();
    expect(screen.getByText(/was changed by both. Theirs: Theirs. Yours: Mine./)).toBeTruthy();
    expect(saveButton().disabled).toBe(true);
    await user.click(screen.getByRole('button', { name: 'Take theirs' }));
    expect((nameField() as HTMLInputElement).value).toBe('Theirs');
    expect(saveButton().disabled).toBe(false);
    // Nothing of one's own is left: there is nothing to send.
    await user.click(saveButton());
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(posted()).toEqual([]);
  }, 30_000);
  it('go on asking while somebody else goes on changing', async () => {
    const user = userEvent.setup();
    const first = sampleState();
    const { come } = renderInProject(<RuleList choice={null} />, {}, first);
    await user.click(screen.getByText('Lockers'));
    await user.clear(nameField());
    await user.type(nameField(), 'Mine');
    const [rule] = first.basis.rules;
    const to = (change: object) => come({ ...first, basis: { ...first.basis, rules: [{ ...rule!, ...change }] } });
    to({ name: 'Theirs' });
    expect(await screen.findByText(/Theirs: Theirs. Yours: Mine./)).toBeTruthy();
    to({ name: 'Theirs', driver: 'Count * 2' });
    expect(await screen.findByText(/Somebody else changed driver meanwhile/)).toBeTruthy();
    expect(screen.getByText(/Theirs: Theirs. Yours: Mine./)).toBeTruthy();
    expect(saveButton().disabled).toBe(true);
  }, 30_000);
  it('that somebody removed meanwhile can be made again', async () => {
    const user = userEvent.setup();
    const first = sampleState();
    const { come, posted } = renderInProject(<RuleList choice={null} />, { 'POST /changes': () => done(9) }, first);
    await user.click(screen.getByText('Lockers'));
    come({ ...first, basis: { ...first.basis, rules: [] } });
    expect(await screen.findByText(/Somebody else removed this rule meanwhile/)).toBeTruthy();
    await user.click(saveButton());
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(posted()[0]!.body).toMatchObject({
      cause: 'Rule added: Lockers',
      diff: {
        added: [
          { kind: 'rule', id: 'lockers' },
          { kind: 'order', id: 'rules', body: ['lockers'] },
        ],
      },
    });
  }, 30_000);
  it('are switched off, moved and removed each by one change', async () => {
    const user = userEvent.setup();
    const { posted } = renderInProject(<RuleList choice={null} />, { 'POST /changes': () => done(9) });
    await user.click(screen.getByRole('switch', { name: 'Rule Lockers is on' }));
    await user.click(screen.getByRole('button', { name: 'Remove' }));
    await waitFor(() => expect(posted()).toHaveLength(2));
    expect(posted()[0]!.body).toMatchObject({ cause: 'Rule off: Lockers', diff: { updated: [{ to: { isOff: true } }] } }); // biome-ignore format: one change
    expect(posted()[1]!.body).toMatchObject({ cause: 'Rule removed: Lockers', diff: { removed: [{ id: 'lockers' }] } });
  }, 30_000);
  it('of a project without any say the next step', () => {
    const first = sampleState();
    renderInProject(<RuleList choice={null} />, {}, { ...renamed(first, ''), basis: { ...first.basis, rules: [] } });
    expect(screen.getByText('No rules yet')).toBeTruthy();
  });
});
