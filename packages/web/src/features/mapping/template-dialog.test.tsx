/** @jest-environment jsdom */
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderInProject } from '../../testing/in-project.tsx';
import { TemplateDialog } from './template-dialog.tsx';

const FIT = {
  name: 'Ours',
  counts: { item: { added: 2, changed: 1, same: 0 }, rule: { added: 1, changed: 0, same: 3 } },
  changed: [{ kind: 'item', id: 'M-LOCK' }],
  misfits: [{ kind: 'rule', id: 'r', message: 'Doors: There is no cost item GONE in the book.' }],
  idle: ['Windows'],
};

describe('taking a template', () => {
  const open = (fit: object = FIT, taken: { status?: number; body: unknown } = { body: { isDone: true } }) => {
    let isClosed = false;
    const drawn = renderInProject(<TemplateDialog onClose={() => { isClosed = true; }} />, {
      'POST /template/check': () => ({ body: fit }),
      'POST /template': () => taken,
    }); // biome-ignore format: one call
    return { ...drawn, isClosed: () => isClosed };
  };
  const choose = async (user: ReturnType<typeof userEvent.setup>) => {
    await user.click(screen.getByRole('combobox', { name: 'Rules and book of' }));
    await user.click(await screen.findByRole('option', { name: 'The rough starter' }));
    return screen.findByTestId('template-fit');
  };
  it('shows what comes, what changes and what would not work, then takes it', async () => {
    const user = userEvent.setup();
    const { posted, isClosed } = open();
    const fit = await choose(user);
    expect(within(fit).getByText('2 cost items, 1 rule')).toBeTruthy();
    expect(within(fit).getByText(/1 cost item$/)).toBeTruthy();
    expect(within(fit).getByText('M-LOCK')).toBeTruthy();
    expect(within(fit).getByText(/There is no cost item GONE/)).toBeTruthy();
    expect(within(fit).getByText('Windows')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Take it' }));
    await waitFor(() => expect(isClosed()).toBe(true));
    expect(posted().map((p) => [p.what, p.body])).toEqual([
      ['POST /template/check', { starter: true }],
      ['POST /template', { starter: true }],
    ]);
  }, 20_000);
  it('takes nothing where all is there, or two codes could not be told apart', async () => {
    const user = userEvent.setup();
    const { unmount } = open({ ...FIT, counts: { item: { added: 0, changed: 0, same: 3 } }, changed: [], misfits: [], idle: [] }); // biome-ignore format: one call
    await choose(user);
    expect((screen.getByRole('button', { name: 'All of it is there' }) as HTMLButtonElement).disabled).toBe(true);
    unmount();
    open({ ...FIT, misfits: [{ kind: 'code', id: 'wall', message: 'item wall is too much like WALL.' }] });
    await choose(user);
    expect((screen.getByRole('button', { name: 'Take it' }) as HTMLButtonElement).disabled).toBe(true);
  }, 20_000);
  it('stays open with the reason when the server says no, and when a file is no template', async () => {
    const user = userEvent.setup();
    const { isClosed } = open(FIT, {
      status: 409,
      body: { detail: 'Somebody changed the rules.', remedy: 'Try again.' },
    });
    await choose(user);
    await user.click(screen.getByRole('button', { name: 'Take it' }));
    expect((await screen.findByRole('alert')).textContent).toBe('Somebody changed the rules. Try again.');
    expect(isClosed()).toBe(false);
    const file = new File(['no json'], 'notes.json', { type: 'application/json' });
    // jsdom has no way to read a file as text.
    file.text = async () => 'no json';
    await user.upload(screen.getByLabelText('Template'), file);
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('notes.json is no template: it cannot be read as JSON.')); // biome-ignore format: one line
  }, 20_000);
});
