/** @jest-environment jsdom */
import { act, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { useState } from 'react';
import { renderThemed } from '../testing/in-project.tsx';
import { TextChoice } from './text-choice.tsx';

let come: (shown: string) => void = () => {};
function Sample({
  first,
  onSay,
}: {
  readonly first: string;
  readonly onSay: (text: string) => Promise<string | null>;
}) {
  const [shown, setShown] = useState(first);
  come = (text) => act(() => setShown(text));
  return (
    <TextChoice label="Storey" placeholder="none" shown={shown} options={['Ground floor', 'Loft']} onSay={onSay} />
  );
}
const open = (first: string, onSay: (text: string) => Promise<string | null> = async () => null) =>
  renderThemed(<Sample first={first} onSay={onSay} />);
const field = () => screen.getByRole<HTMLInputElement>('combobox', { name: 'Storey' });

describe('a text that is chosen or typed', () => {
  it('stays as one types it when somebody else changes it, who is told of; Escape takes theirs', async () => {
    const said: string[] = [];
    open('Ground floor', async (text) => {
      said.push(text);
      return null;
    });
    await userEvent.clear(field());
    await userEvent.type(field(), 'Cel');
    come('Loft');
    expect(field().value).toBe('Cel');
    expect(screen.getByText('Somebody else made it "Loft" meanwhile; Escape takes that.')).toBeTruthy();
    await userEvent.type(field(), 'lar');
    await userEvent.tab();
    expect(said).toEqual(['Cellar']);
    await userEvent.click(field());
    await userEvent.keyboard('{Escape}');
    expect(field().value).toBe('Loft');
    expect(screen.queryByText(/Somebody else/)).toBeNull();
    await userEvent.tab();
    expect(said).toEqual(['Cellar']);
  });
  it('follows what comes while nothing is typed, and again when what was typed has been kept', async () => {
    open('Ground floor');
    come('Loft');
    expect(field().value).toBe('Loft');
    await userEvent.clear(field());
    await userEvent.type(field(), 'Cellar');
    await userEvent.tab();
    come('Cellar');
    expect(screen.queryByText(/Somebody else/)).toBeNull();
    come('Ground floor');
    expect(field().value).toBe('Ground floor');
  });
  it('is said once when it is chosen and then left, and stays as it was typed when it is refused', async () => {
    const said: string[] = [];
    open('Ground floor', async (text) => {
      said.push(text);
      return 'No.';
    });
    await userEvent.clear(field());
    await userEvent.type(field(), 'Lo');
    await userEvent.click(screen.getByRole('option', { name: 'Loft' }));
    expect(said).toEqual(['Loft']);
    expect(field().value).toBe('Loft');
    come('Cellar');
    expect(field().value).toBe('Loft');
    expect(screen.getByText(/Somebody else made it "Cellar"/)).toBeTruthy();
  });
  it('is shown as what was made of it', async () => {
    open('Ground floor');
    await userEvent.clear(field());
    await userEvent.type(field(), 'loft');
    await userEvent.tab();
    come('Loft');
    expect(field().value).toBe('Loft');
    expect(screen.queryByText(/Somebody else/)).toBeNull();
  });
  it('typed as it was says nothing', async () => {
    const said: string[] = [];
    open('Loft', async (text) => {
      said.push(text);
      return null;
    });
    await userEvent.clear(field());
    await userEvent.type(field(), 'Loft ');
    await userEvent.tab();
    expect(said).toEqual([]);
    expect(field().value).toBe('Loft');
  });
});
