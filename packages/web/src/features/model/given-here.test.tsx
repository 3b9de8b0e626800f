/** @jest-environment jsdom */
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { type Answers, refuse, renderInProject } from '../../testing/in-project.tsx';
import { sampleElement } from '../../testing/sample-table.ts';
import { AttributeSection } from './given-here.tsx';

const WALL = sampleElement('g1', 'Wall W1', 'IfcWall', 'Ground floor');
const name = () => screen.getByRole('combobox', { name: 'Attribute' }) as HTMLInputElement;
const value = () => screen.getByRole('textbox', { name: 'Value' }) as HTMLInputElement;
async function give(answers: Answers, what: string, is: string) {
  const drawn = renderInProject(<AttributeSection keys={[11, 12]} elements={[WALL]} />, answers);
  await userEvent.type(name(), what);
  await userEvent.type(value(), is);
  await userEvent.click(screen.getByRole('button', { name: 'Add' }));
  return drawn;
}

describe('an attribute that is given here', () => {
  it('goes to all that are selected, in one step', async () => {
    const { posted } = await give(
      { 'POST /attributes': () => ({ body: { projectId: 'p', seq: 8, move: null } }) },
      'Sockets',
      '4',
    );
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(posted()[0]).toEqual({
      what: 'POST /attributes',
      body: { base: 7, name: 'Sockets', value: 4, of: { keys: [11, 12] } },
    });
    await waitFor(() => expect([name().value, value().value]).toEqual(['', '']));
  }, 30_000);
  it('that is refused stays as it was typed, with the reason', async () => {
    await give({ 'POST /attributes': () => refuse('Ann gave another meanwhile.') }, 'Sockets', '4');
    expect(await screen.findByText(/Ann gave another meanwhile\./)).toBeTruthy();
    expect([name().value, value().value]).toEqual(['Sockets', '4']);
  }, 30_000);
});
