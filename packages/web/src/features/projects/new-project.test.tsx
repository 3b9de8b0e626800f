/** @jest-environment jsdom */
import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject } from '../../testing/in-project.tsx';
import { NewProject } from './new-project.tsx';

const MADE = { body: { id: 'n', name: 'Quay house', currency: 'EUR', seq: 1, createdAt: '2026-03-02' } };
const make = () => screen.getByRole('button', { name: 'Make project' }) as HTMLButtonElement;
async function chooseFile(text: string) {
  await userEvent.type(screen.getByLabelText(/^Name/), 'Quay house');
  await userEvent.click(screen.getByRole('combobox', { name: 'Rules and book' }));
  await userEvent.click(await screen.findByRole('option', { name: 'From a template file' }));
  const file = new File([text], 'ours.json', { type: 'application/json' });
  // The made-up browser's files cannot be read as texts.
  Object.defineProperty(file, 'text', { value: async () => text });
  fireEvent.change(screen.getByLabelText('Template file'), { target: { files: [file] } });
  await waitFor(() => expect(make().disabled).toBe(false));
  await userEvent.click(make());
}

describe('a new project', () => {
  it('needs a name and a currency of three capital letters', async () => {
    const { posted } = renderInProject(<NewProject projects={[]} />, { 'POST /api/projects': () => MADE });
    expect(make().disabled).toBe(true);
    await userEvent.type(screen.getByLabelText(/^Name/), 'Quay house');
    await waitFor(() => expect(make().disabled).toBe(false));
    await userEvent.clear(screen.getByLabelText(/^Currency/));
    await userEvent.type(screen.getByLabelText(/^Currency/), 'eu');
    await waitFor(() => expect(make().disabled).toBe(true));
    expect(posted()).toEqual([]);
  }, 30_000);
  it('begins with a template in one step: with one that the server refuses nothing is made', async () => {
    const { posted } = renderInProject(<NewProject projects={[]} />, { 'POST /api/projects': () => refuse('Item 3 has no unit.', 'template-broken', 400) }); // biome-ignore format: one page
    await chooseFile('{"format":"crisp-tally-template/1"}');
    expect((await screen.findByRole('alert')).textContent).toContain('Item 3 has no unit.');
    expect(posted()).toHaveLength(1);
    expect(posted()[0]!.body).toMatchObject({ name: 'Quay house', template: { format: 'crisp-tally-template/1' } });
    expect((screen.getByLabelText(/^Name/) as HTMLInputElement).value).toBe('Quay house');
  }, 30_000);
  it('is not asked for with a file that is none', async () => {
    const { posted } = renderInProject(<NewProject projects={[]} />, { 'POST /api/projects': () => MADE });
    await chooseFile('rates, 12.00');
    expect((await screen.findByRole('alert')).textContent).toContain('it is not JSON');
    expect(posted()).toEqual([]);
  }, 30_000);
});
