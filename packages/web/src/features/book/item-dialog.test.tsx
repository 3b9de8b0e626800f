/** @jest-environment jsdom */
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject } from '../../testing/in-project.tsx';
import { ItemDialog } from './item-dialog.tsx';

const ITEM = { code: '', description: '', kind: 'material', unit: 'each', rate: null } as const;
const field = (name: string) => screen.getByRole('textbox', { name }) as HTMLInputElement;
const add = () => screen.getByRole('button', { name: 'Add the item' }) as HTMLButtonElement;

describe('a new item', () => {
  it('says what is wrong with it while it is typed, and is sent when it is right', async () => {
    const user = userEvent.setup();
    const onClose = jest.fn();
    const { posted } = renderInProject(<ItemDialog item={ITEM} onClose={onClose} />, {
      'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }),
    });
    await user.type(field('Code'), 'm-lock');
    expect(screen.getByText('There is an item of this code already.')).toBeTruthy();
    await user.clear(field('Code'));
    await user.type(field('Code'), 'M-BENCH');
    await user.type(field('Description'), 'Bench of larch');
    await user.type(field('Rate EUR'), 'much');
    expect(screen.getByText('"much" is no rate.')).toBeTruthy();
    expect(add().disabled).toBe(true);
    await user.clear(field('Rate EUR'));
    await user.type(field('Rate EUR'), '210.5');
    await user.click(add());
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(posted()[0]!.body).toMatchObject({
      base: 7,
      cause: 'Item added: M-BENCH Bench of larch',
      diff: { added: [{ kind: 'item', id: 'M-BENCH', body: { code: 'M-BENCH', rate: '210.5', unit: 'each' } }] },
    });
  }, 30_000);
  it('that is refused stays as it was typed', async () => {
    const user = userEvent.setup();
    const onClose = jest.fn();
    renderInProject(<ItemDialog item={{ ...ITEM, description: 'Bench' }} onClose={onClose} />, {
      'POST /changes': () => refuse('Item M-BENCH is too much like M-BENCH2.', 'code-too-alike', 400),
    });
    await user.type(field('Code'), 'M-BENCH');
    await user.click(add());
    expect(await screen.findByText(/too much like M-BENCH2/)).toBeTruthy();
    expect([field('Code').value, field('Description').value, onClose.mock.calls.length]).toEqual(['M-BENCH', 'Bench', 0]); // biome-ignore format: one list
  }, 30_000);
});
