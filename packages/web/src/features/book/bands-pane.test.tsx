/** @jest-environment jsdom */
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { BandsPane } from './bands-pane.tsx';

const BAND = { of: 'IfcWall', unit: 'm2', low: '80', usual: '110', high: '160' };
const first = sampleState();
const WITH_BAND = { ...first, basis: { ...first.basis, bands: [BAND] } } as typeof first;
const field = (name: string) => screen.getByRole(name === 'Class or element code' ? 'combobox' : 'textbox', { name }) as HTMLInputElement; // biome-ignore format: one line

describe('bands of usual prices', () => {
  beforeAll(() => giveSizes());
  it('are added when all of one is said, in the right order', async () => {
    const user = userEvent.setup();
    const { posted } = renderInProject(<BandsPane />, { 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }) }, first); // biome-ignore format: one call
    const add = () => screen.getByRole('button', { name: 'Add the band' }) as HTMLButtonElement;
    await user.type(field('Class or element code'), 'B2010');
    await user.type(field('Low'), '100');
    await user.type(field('Usual'), '90');
    await user.type(field('High'), '140');
    expect(await screen.findByText('Low is not more than usual, usual not more than high.')).toBeTruthy();
    expect(add().disabled).toBe(true);
    await user.clear(field('Usual'));
    await user.type(field('Usual'), '120.5');
    await waitFor(() => expect(add().disabled).toBe(false));
    await user.click(add());
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(posted()[0]!.body).toMatchObject({
      cause: 'What B2010 per m2 usually costs',
      diff: { added: [{ kind: 'band', id: 'B2010 per m2', body: { of: 'B2010', unit: 'm2', low: '100', usual: '120.5', high: '140' } }] },
    }); // biome-ignore format: one body
  }, 30_000);
  it('are told in words, changed where they stand, and keep what was typed when the server says no', async () => {
    const user = userEvent.setup();
    renderInProject(<BandsPane />, { 'POST /changes': () => refuse('Ann changed it meanwhile.') }, WITH_BAND);
    const row = within(screen.getByRole('grid', { name: 'Bands' })).getByRole('row', { name: /Wall/ });
    expect(within(row).getAllByRole('gridcell').map((c) => c.textContent).slice(0, 5)).toEqual(['Wall', 'm²', '80.00', '110.00', '160.00']); // biome-ignore format: one line
    await user.click(within(row).getByText('Wall'));
    await user.clear(field('High'));
    await user.type(field('High'), '200');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    expect((await within(screen.getByRole('form', { name: 'Band' })).findByRole('alert')).textContent).toMatch(/Ann changed it meanwhile/); // biome-ignore format: one line
    expect(field('High').value).toBe('200');
  }, 30_000);
});
