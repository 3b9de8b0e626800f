/** @jest-environment jsdom */
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleWalls } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { PriceForm } from './price-form.tsx';

type Answer = { status?: number; body: unknown };
/** The wall of 4 m, which nothing prices. */
function draw(onChange: () => Answer = () => ({ body: { projectId: 'p', seq: 8, move: null } })) {
  const drawn = renderInProject(
    <PriceForm elementKey={12} name="Wall 2" />,
    {
      'POST /preview': () => ({ body: { before: 307_200, after: 309_200, move: 2_000, causes: {} } }),
      'POST /changes': onChange,
    },
    sampleState({ sources: [sampleSource] }),
  );
  serveTable(sampleWalls());
  return drawn;
}
const rate = () => screen.findByRole('textbox', { name: 'Rate EUR' }) as Promise<HTMLInputElement>;
const price = () => screen.getByRole('button', { name: /^Price it/ }) as HTMLButtonElement;

describe('pricing an element where it stands', () => {
  it('takes a rate of one digit, shows what it comes to, and makes an item and the decision for it in one change', async () => {
    const user = userEvent.setup();
    const { posted } = draw();
    await user.type(await rate(), '5');
    expect(price().disabled).toBe(false);
    // 4 m at 5.00.
    await waitFor(() => expect(price().textContent).toBe('Price it, +20.00'));
    await user.click(price());
    await waitFor(() => expect(posted().some((p) => p.what === 'POST /changes')).toBe(true));
    const { diff } = posted().find((p) => p.what === 'POST /changes')!.body as { diff: { added: { kind: string; body: object }[] } }; // biome-ignore format: one line
    expect(diff.added.map((e) => e.kind).sort()).toEqual(['item', 'pin']);
    expect(diff.added.find((e) => e.kind === 'item')?.body).toMatchObject({ rate: '5', unit: 'm' });
  }, 30_000);

  it('says what is no rate, and prices nothing by it', async () => {
    const user = userEvent.setup();
    draw();
    await user.type(await rate(), 'much');
    expect(await screen.findByText('"much" is no rate.')).toBeTruthy();
    expect(price().disabled).toBe(true);
  }, 30_000);

  it('keeps the rate where it is refused', async () => {
    const user = userEvent.setup();
    draw(() => refuse('Ann priced Wall 2 meanwhile.'));
    await user.type(await rate(), '7.25');
    await user.click(price());
    expect(await screen.findByText(/Ann priced Wall 2 meanwhile/)).toBeTruthy();
    expect((await rate()).value).toBe('7.25');
  }, 30_000);
});
