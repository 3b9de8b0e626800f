/** @jest-environment jsdom */
import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { MoneyPart } from './money-part.tsx';

type Answer = { status?: number; body: unknown };
const PREVIEW = { 'POST /preview': () => ({ body: { before: 307_200, after: 337_920, move: 30_720, causes: {} } }) };
function draw(onChange: () => Answer | Promise<Answer> = () => ({ body: { projectId: 'p', seq: 8, move: null } }), state = sampleState()) {
  return renderInProject(<MoneyPart />, { ...PREVIEW, 'POST /changes': onChange }, state);
} // biome-ignore format: one line
const field = (name: string) => screen.getByLabelText(name) as HTMLInputElement;
const button = (name: string) => screen.getByRole('button', { name }) as HTMLButtonElement;
const choose = async (label: string, option: string) => {
  fireEvent.mouseDown(screen.getByRole('combobox', { name: label }));
  fireEvent.click(await screen.findByRole('option', { name: option }));
};
const made = (posted: ReturnType<ReturnType<typeof draw>['posted']>) =>
  posted.filter((p) => p.what === 'POST /changes').map((p) => p.body as { cause: string; diff: { updated: { to: object }[] } }); // biome-ignore format: one line

describe('factors of a project', () => {
  it('are typed with their sign, tried on the total, and kept', async () => {
    const user = userEvent.setup();
    const { posted } = draw();
    await user.click(button('Add a factor'));
    expect(button('Keep the factor').disabled).toBe(true);
    await user.type(field('Name of the factor'), 'River site');
    await user.type(field('Per cent'), '+10 %');
    await waitFor(() => expect(screen.getByRole('status', { name: 'Effect' }).textContent).toContain('3,379.20'));
    await user.click(button('Keep the factor'));
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Keep the factor' })).toBeNull());
    const [change] = made(posted());
    expect(change?.cause).toBe('Factor added: River site');
    expect(change?.diff.updated[0]?.to).toMatchObject({ factors: [{ name: 'River site', percent: 10 }] });
  }, 30_000);

  it('say what is wrong with them', async () => {
    const user = userEvent.setup();
    draw();
    await user.click(button('Add a factor'));
    await user.type(field('Name of the factor'), 'F');
    for (const [typed, message] of [
      ['much', '"much" is no per cent.'],
      ['-91', 'From −90 to 900.'],
      ['901', 'From −90 to 900.'],
    ] as const) {
      await user.clear(field('Per cent'));
      await user.type(field('Per cent'), typed);
      expect(await screen.findByText(message)).toBeTruthy();
      expect(button('Keep the factor').disabled).toBe(true);
    }
  }, 30_000);

  it('by the year need both dates, and have narrower bounds', async () => {
    const user = userEvent.setup();
    const { posted } = draw();
    await user.click(button('Add a factor'));
    await user.type(field('Name of the factor'), 'Escalation');
    await user.type(field('Per cent'), '4');
    await choose('Holds', 'by the year');
    expect(button('Keep the factor').disabled).toBe(true);
    fireEvent.change(field('Prices are of'), { target: { value: '2026-01-01' } });
    expect(button('Keep the factor').disabled).toBe(true);
    fireEvent.change(field('Work is done by'), { target: { value: '2028-01-01' } });
    await waitFor(() => expect(button('Keep the factor').disabled).toBe(false));
    await user.clear(field('% a year'));
    await user.type(field('% a year'), '101');
    expect(await screen.findByText('From −50 to 100.')).toBeTruthy();
    // As it is, 101 % are nothing unusual.
    await choose('Holds', 'as it is');
    await waitFor(() => expect(screen.queryByText('From −50 to 100.')).toBeNull());
    await choose('Holds', 'by the year');
    expect(await screen.findByText('From −50 to 100.')).toBeTruthy();
    await user.clear(field('% a year'));
    await user.type(field('% a year'), '4');
    await choose('On', 'labour');
    await user.click(button('Keep the factor'));
    await waitFor(() => expect(made(posted())).toHaveLength(1));
    expect(made(posted())[0]?.diff.updated[0]?.to).toMatchObject({
      factors: [{ name: 'Escalation', percentPerYear: 4, from: '2026-01-01', to: '2028-01-01', kinds: ['labour'] }],
    });
  }, 30_000);

  it('stay as they were typed where they are refused, and are sent once however often one presses', async () => {
    const user = userEvent.setup();
    let answer: (made: Answer) => void = () => {};
    const { posted } = draw(() => new Promise((done) => { answer = done; })); // biome-ignore format: one line
    await user.click(button('Add a factor'));
    await user.type(field('Name of the factor'), 'Site');
    await user.type(field('Per cent'), '5');
    await user.dblClick(button('Keep the factor'));
    await waitFor(() => expect(made(posted())).toHaveLength(1));
    answer(refuse('Ann changed the settings meanwhile.'));
    expect(await screen.findByText(/Ann changed the settings meanwhile/)).toBeTruthy();
    expect([field('Name of the factor').value, field('Per cent').value, made(posted()).length]).toEqual([
      'Site',
      '5',
      1,
    ]);
  }, 30_000);
});

describe('other currencies of a project', () => {
  it('say what is wrong with them, and replace the rate of before', async () => {
    const user = userEvent.setup();
    const state = sampleState();
    const exchange = [{ currency: 'USD', rate: '0.91', date: '2026-01-01' }];
    const settings = { ...state.basis.settings, exchange };
    const { posted } = draw(undefined, sampleState({ basis: { ...state.basis, settings } }));
    expect(screen.getByText('0.91 EUR')).toBeTruthy();
    await user.click(button('Add a currency'));
    await user.type(field('Currency'), 'eur');
    expect(await screen.findByText('That is the one of the project.')).toBeTruthy();
    await user.clear(field('Currency'));
    await user.type(field('Currency'), 'dollars');
    expect(await screen.findByText('A currency is three capital letters, e.g. EUR.')).toBeTruthy();
    await user.clear(field('Currency'));
    await user.type(field('Currency'), 'usd');
    await user.type(field('One is, in EUR'), '0');
    expect(await screen.findByText('A rate of exchange is more than 0.')).toBeTruthy();
    await user.clear(field('One is, in EUR'));
    await user.type(field('One is, in EUR'), '0.90');
    expect(button('Keep the rate').disabled).toBe(true);
    fireEvent.change(field('Of'), { target: { value: '2026-03-01' } });
    await waitFor(() => expect(button('Keep the rate').disabled).toBe(false));
    await user.click(button('Keep the rate'));
    await waitFor(() => expect(made(posted())).toHaveLength(1));
    expect(made(posted())[0]?.cause).toBe('Exchange of USD: 0.9 EUR');
    expect(made(posted())[0]?.diff.updated[0]?.to).toMatchObject({ exchange: [{ currency: 'USD', rate: '0.9', date: '2026-03-01' }] }); // biome-ignore format: one line
  }, 30_000);
});
