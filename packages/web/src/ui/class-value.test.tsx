/** @jest-environment jsdom */
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { ClassValue } from './class-value.tsx';

function Sample({ first, seen }: { first: string; seen: string[] }) {
  const [value, setValue] = useState(first);
  return (
    <ClassValue
      value={value}
      options={['IfcWall', 'IfcWallStandardCase', 'IfcStairFlight']}
      onChange={(next) => {
        seen.push(next);
        setValue(next);
      }}
    />
  );
}

describe('a class in a condition', () => {
  it('is shown by its word, typed by its word, and kept by its name in IFC', async () => {
    const user = userEvent.setup();
    const seen: string[] = [];
    render(<Sample first="IfcWallStandardCase" seen={seen} />);
    const input = screen.getByRole('combobox') as HTMLInputElement;
    expect(input.value).toBe('Wall');
    // To look at it changes nothing, though two classes have this word.
    await user.click(input);
    await user.tab();
    expect(seen).toEqual([]);
    await user.clear(input);
    await user.type(input, 'stair flight');
    expect([seen.at(-1), input.value]).toEqual(['IfcStairFlight', 'stair flight']);
    await user.tab();
    expect(input.value).toBe('Stair flight');
  });
  it('may be typed as IFC names it, and with wildcards', async () => {
    const user = userEvent.setup();
    const seen: string[] = [];
    render(<Sample first="" seen={seen} />);
    const input = screen.getByRole('combobox') as HTMLInputElement;
    await user.type(input, 'IfcWallStandardCase');
    expect([seen.at(-1), input.value]).toEqual(['IfcWallStandardCase', 'IfcWallStandardCase']);
    await user.clear(input);
    await user.type(input, 'IfcWall*');
    expect(seen.at(-1)).toBe('IfcWall*');
  });
});
