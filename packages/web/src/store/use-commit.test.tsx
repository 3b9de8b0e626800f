/** @jest-environment jsdom */
import type { EntryDiff } from '@tally/core';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { refuse, renderInProject } from '../testing/in-project.tsx';
import { refusalOf, useCommit } from './use-commit.ts';
import { usePreview } from './use-preview.ts';

const DIFF: Partial<EntryDiff> = { added: [{ kind: 'view', id: 'v', body: { name: 'V' } }] };

function Committing() {
  const commit = useCommit('p');
  const [said, setSaid] = useState('');
  const say = (done: Promise<unknown>) => void refusalOf(done).then((refusal) => setSaid(refusal ?? 'done'));
  return (
    <>
      <button type="button" onClick={() => say(commit.mutateAsync({ cause: 'View', diff: DIFF }))}>
        Commit
      </button>
      <button type="button" onClick={() => say(commit.mutateAsync({ name: 'Grade', value: 'C24', keys: [3, 4] }))}>
        Give
      </button>
      <p role="status">{said}</p>
    </>
  );
}

describe('committing', () => {
  it('sends entries, or one attribute for many elements, on the state on screen', async () => {
    const user = userEvent.setup();
    const done = { body: { projectId: 'p', seq: 8, move: null } };
    const { posted } = renderInProject(<Committing />, {
      'POST /changes': () => done,
      'POST /attributes': () => ({ body: { ...done.body, seq: 9 } }),
    });
    await user.click(screen.getByRole('button', { name: 'Commit' }));
    await waitFor(() => expect(screen.getByRole('status').textContent).toBe('done'));
    await user.click(screen.getByRole('button', { name: 'Give' }));
    await waitFor(() => expect(posted()).toHaveLength(2));
    expect(posted().map((p) => p.what)).toEqual(['POST /changes', 'POST /attributes']);
    expect(posted()[0]!.body).toMatchObject({ base: 7, cause: 'View', diff: DIFF });
    expect(posted()[1]!.body).toEqual({ base: 7, name: 'Grade', value: 'C24', of: { keys: [3, 4] } });
  }, 20_000);
  it('tells a refusal to who asked, and shows it', async () => {
    const user = userEvent.setup();
    renderInProject(<Committing />, { 'POST /changes': () => refuse('Ann changed the view meanwhile.') });
    await user.click(screen.getByRole('button', { name: 'Commit' }));
    await waitFor(() => expect(screen.getByRole('status').textContent).toMatch(/Ann changed the view meanwhile/));
  }, 20_000);
});

function Trying({ name }: { readonly name: string | null }) {
  const diff = name === null ? null : { added: [{ kind: 'view', id: 'v', body: { name } }] };
  const move = usePreview('p', diff);
  return <p role="status">{move ? move.move : 'unknown'}</p>;
}

describe('trying a change out', () => {
  function Typed() {
    const [name, setName] = useState<string | null>(null);
    return (
      <>
        <input aria-label="Name" onChange={(e) => setName(e.target.value === '' ? null : e.target.value)} />
        <Trying name={name} />
      </>
    );
  }
  it('waits until one has typed, asks once, and says nothing of what is no longer asked', async () => {
    const user = userEvent.setup();
    const { posted } = renderInProject(<Typed />, {
      'POST /preview': () => ({ body: { before: 0, after: 1200, move: 1200, causes: {} } }),
    });
    await user.type(screen.getByRole('textbox', { name: 'Name' }), 'abc');
    await waitFor(() => expect(screen.getByRole('status').textContent).toBe('1200'));
    expect(posted().filter((p) => p.what === 'POST /preview')).toHaveLength(1);
    await user.clear(screen.getByRole('textbox', { name: 'Name' }));
    expect(screen.getByRole('status').textContent).toBe('unknown');
  }, 20_000);
});
