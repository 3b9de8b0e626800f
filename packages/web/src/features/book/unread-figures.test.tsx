/** @jest-environment jsdom */
import { type Assembly, scaleSchema } from '@tally/core';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { AssemblyRecipe } from './assembly-recipe.tsx';
import { ScaleSheet } from './scale-sheet.tsx';

const SHELF: Assembly = { code: 'A-SHELF', description: 'Shelf', unit: 'm', lines: [{ id: 'L-CAR', item: 'L-CAR', quantity: 'Driver * 0.5 h/m' }] } as Assembly; // biome-ignore format: one record
const SCALE = scaleSchema.parse({ name: 'Digging', unit: 'EUR/m3', keys: [{ name: 'Depth', unit: 'm' }], rows: [{ at: [{ from: 0, to: 2 }], value: 30 }] }); // biome-ignore format: one record
const keep = () => screen.getByRole('button', { name: /^Keep|^Save/ }) as HTMLButtonElement;

beforeAll(() => giveSizes());

describe('a figure that cannot be read', () => {
  it('of a line is not kept without it: the assembly waits until it can', async () => {
    renderInProject(
      <AssemblyRecipe assembly={SHELF} isNew={false} onDuplicate={() => undefined} onKept={() => undefined} />,
    );
    await userEvent.click(screen.getAllByRole('button', { name: /More about the line/ })[0]!);
    const waste = (await screen.findByLabelText(/Waste/)) as HTMLInputElement;
    await userEvent.type(waste, '8');
    await waitFor(() => expect(keep().disabled).toBe(false));
    await userEvent.type(waste, 'x');
    await waitFor(() => expect(keep().disabled).toBe(true));
    expect(screen.getByText('No figure.')).toBeTruthy();
    expect(document.body.textContent).not.toContain('NaN');
    await userEvent.type(waste, '{Backspace}');
    await waitFor(() => expect(keep().disabled).toBe(false));
  }, 30_000);
  it('as the steps of a scale is not taken for none', async () => {
    renderInProject(<ScaleSheet scale={SCALE} onKept={() => undefined} />, {}, sampleState());
    const step = screen.getByLabelText('Started steps of');
    await userEvent.type(step, '0,5');
    await userEvent.type(step, 'm');
    expect(await screen.findByText('Started steps are a figure above 0, or none.')).toBeTruthy();
    expect(keep().disabled).toBe(true);
  }, 30_000);
});
