/** @jest-environment jsdom */
import type { AssemblyParameter } from '@tally/core';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { useFormulaNames } from '../../store/use-elements.ts';
import { renderInProject } from '../../testing/in-project.tsx';
import { ParameterList } from './parameter-list.tsx';

const STUDS: AssemblyParameter[] = [
  { name: 'Spacing', unit: 'm', value: '0.4 m', choices: ['0.4 m', '0.6 m'] },
  { name: 'Depth', unit: 'm', value: '0.1 m', choices: ['0.1 m', '0.14 m'] },
];
let held: readonly AssemblyParameter[] = [];

function Sample() {
  const names = useFormulaNames();
  const [parameters, setParameters] = useState<readonly AssemblyParameter[]>(STUDS);
  held = parameters;
  return (
    <ParameterList
      parameters={parameters}
      names={names}
      problems={parameters.map(() => null)}
      onChange={setParameters}
    />
  );
}
const choices = () => screen.getAllByRole<HTMLInputElement>('textbox', { name: 'To choose from' }).map((f) => f.value);

describe('the parameters of an assembly', () => {
  it('keep each its own choices when one before them is taken out', async () => {
    const user = userEvent.setup();
    renderInProject(<Sample />);
    expect(choices()).toEqual(['0.4 m; 0.6 m', '0.1 m; 0.14 m']);
    await user.type(screen.getAllByRole('textbox', { name: 'To choose from' })[0]!, '; 0.8 m');
    await user.click(screen.getByRole('button', { name: 'Take the parameter Spacing out' }));
    expect(choices()).toEqual(['0.1 m; 0.14 m']);
    expect(held).toEqual([STUDS[1]]);
  });
  it('take choices as they are typed, with semicolons between; none where nothing is left', async () => {
    const user = userEvent.setup();
    renderInProject(<Sample />);
    const field = () => screen.getAllByRole<HTMLInputElement>('textbox', { name: 'To choose from' })[0]!;
    await user.type(field(), ' ;');
    // What one types on stands, though it gives no other choices yet.
    expect(field().value).toBe('0.4 m; 0.6 m ;');
    await user.type(field(), ' 0.8 m');
    expect(held[0]!.choices).toEqual(['0.4 m', '0.6 m', '0.8 m']);
    await user.clear(field());
    expect(held[0]!.choices).toBeUndefined();
    expect(field().value).toBe('');
  });
});
