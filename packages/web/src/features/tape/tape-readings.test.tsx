/** @jest-environment jsdom */
import { useQuery } from '@tanstack/react-query';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { getJson } from '../../store/client.ts';
import { useSelection } from '../../store/selection.tsx';
import { giveSizes } from '../../testing/give-sizes.ts';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { Tape } from './tape.tsx';

/** Something on a page that is read, and says nothing of its own when it cannot be. */
function Pane({ path }: { readonly path: string }) {
  const { data } = useQuery({ queryKey: ['project', 'p', path], queryFn: () => getJson<{ word: string }>(`/projects/p${path}`) }); // biome-ignore format: one reading
  return <p>{data?.word ?? 'on its way'}</p>;
}
function Choose({ keys }: { readonly keys: readonly number[] }) {
  const { select } = useSelection();
  return (
    <button type="button" onClick={() => select(keys)}>
      choose {keys.join()}
    </button>
  );
}

beforeAll(() => giveSizes());

describe('what the tape says of a reading that failed', () => {
  it('is why, once for each reason, until it was read again', async () => {
    let isDamaged = true;
    const answer = () =>
      isDamaged ? refuse('The table is damaged.', 'table-damaged', 503) : { body: { word: 'whole' } };
    const panes = [<Pane key="a" path="/one" />, <Pane key="b" path="/two" />];
    renderInProject([<Tape key="t" />, ...panes], { 'GET /one': answer, 'GET /two': answer });
    const notice = await screen.findByRole('alert');
    expect(notice.textContent).toBe('Not all of this page could be read. The table is damaged. Look at the newest state and try again.Read again'); // biome-ignore format: one text
    isDamaged = false;
    await userEvent.click(screen.getByRole('button', { name: 'Read again' }));
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
    expect(screen.getAllByText('whole')).toHaveLength(2);
  });
  it('counts other reasons, and says nothing where nobody answers: that is said once for all', async () => {
    renderInProject([<Tape key="t" />, <Pane key="a" path="/one" />, <Pane key="b" path="/two" />, <Pane key="c" path="/three" />], {
      'GET /one': () => refuse('The book is gone.', 'not-found', 404),
      'GET /two': () => refuse('The list is gone.', 'not-found', 404),
      'GET /three': () => refuse('Nobody answers.', 'unreachable', 502),
    }); // biome-ignore format: three readings
    expect((await screen.findByText(/And 1 more\./)).textContent).not.toContain('Nobody answers.');
  });
});

describe('what is selected', () => {
  it('costs what the server says, and nothing is told while that is not known', async () => {
    let release = (_: number) => undefined as unknown;
    const first = sampleState();
    const amounts: Record<string, number> = { '1,2': 123_450_000 };
    const drawn = renderInProject([<Tape key="t" />, <Choose key="c" keys={[1, 2]} />, <Choose key="d" keys={[3]} />], {
      'POST /elements/amount': (body) => {
        const keys = (body as { keys: number[] }).keys.join();
        return keys in amounts ? { body: { amount: amounts[keys] } } : (new Promise((done) => (release = (amount) => done({ body: { amount } })))); // biome-ignore format: one choice
      },
    }, first); // biome-ignore format: one page
    await userEvent.click(screen.getByText('choose 1,2'));
    await waitFor(() => expect(screen.getByTestId('tape-selection').textContent).toBe('123.45'));
    expect(drawn.posted()).toHaveLength(1);
    await userEvent.click(screen.getByText('choose 3'));
    // Neither 0 nor what the two cost.
    expect(screen.getByTestId('tape-selection').textContent).toBe('…');
    release(70_000);
  });
  it('that the server cannot price is never told to cost nothing', async () => {
    renderInProject([<Tape key="t" />, <Choose key="c" keys={[1]} />], { 'POST /elements/amount': () => refuse('The plan is not ready.', 'busy', 503) }); // biome-ignore format: one page
    await userEvent.click(screen.getByText('choose 1'));
    expect((await screen.findByRole('alert')).textContent).toContain('The plan is not ready.');
    expect(screen.getByTestId('tape-selection').textContent).toBe('…');
  });
});
