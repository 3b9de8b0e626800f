/** @jest-environment jsdom */
import { ThemeProvider } from '@mui/material/styles';
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

import { theme } from '../app/theme.ts';
import { TextChoice } from './text-choice.tsx';

function open(shown: string, onSay: (text: string) => Promise<string | null> = async () => null) {
  const tree = (text: string) => (
    <ThemeProvider theme={theme}>
      <TextChoice label="Storey" placeholder="none" shown={text} options={['Ground floor', 'Loft']} onSay={onSay} />
    </ThemeProvider>
  );
  const { rerender } = render(tree(shown));
  return (text: string) => rerender(tree(text));
}
const field = () => screen.getByRole<HTMLInputElement>('combobox', { name: 'Storey' });

describe('a text that is chosen or typed', () => {
  it('stays as one types it when somebody else changes it, who is told of; Escape takes theirs', async () => {
    const said: string[] = [];
    const come = open('Ground floor', async (text) => {
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
    const come = open('Ground floor');
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
    const come = open('Ground floor', async (text) => {
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
    const come = open('Ground floor');
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
