/** @jest-environment jsdom */
import { buildElementTable, type Condition, type FieldCondition, type NamedScope } from '@tally/core';
import { fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { renderThemed } from '../testing/in-project.tsx';
import { sampleElement } from '../testing/sample-table.ts';
import { askAnew, ConditionEditor, joinCondition, listTestsLike, splitCondition } from './condition-editor.tsx';

const TABLE = buildElementTable(
  [
    sampleElement('a', 'Wall 1', 'IfcWall', 'Ground floor', {
      typeName: 'Outer wall',
      materials: ['Timber', 'Render'],
    }),
    sampleElement('b', 'Door 1', 'IfcDoor', 'Upper floor', { properties: { Pset: { Rating: 'EI30' } } }),
  ],
  Int32Array.of(1, 2),
);
const SCOPES: readonly NamedScope[] = [{ id: 'outer', name: 'Outer walls', scope: { field: 'type', op: 'is', value: 'Outer wall' } }]; // biome-ignore format: one scope

let now: Condition;
function Editor({ first }: { readonly first: Condition }) {
  const [scope, setScope] = useState(first);
  now = scope;
  return (
    <ConditionEditor
      scope={scope}
      onChange={setScope}
      tables={[TABLE]}
      sample={{ table: TABLE, row: 0 }}
      scopes={SCOPES}
    />
  );
}
const pick = async (name: string, option: string, at = 0) => {
  fireEvent.mouseDown(screen.getAllByRole('combobox', { name })[at]!);
  fireEvent.click(within(await screen.findByRole('listbox')).getByRole('option', { name: option }));
};

describe('a condition that is edited row by row', () => {
  it('is asked anew where another field cannot be asked as before: a range catches no text', () => {
    const range: FieldCondition = { field: 'quantity', of: 'Length', op: 'range', min: 2, max: 5 };
    expect(askAnew(range, 'storey')).toEqual({ field: 'storey', op: 'is', value: '' });
    expect(askAnew(range, 'layer')).toEqual({ field: 'layer', op: 'range' });
    expect(askAnew({ field: 'type', op: 'oneOf', values: ['A'] }, 'name')).toEqual({ field: 'name', op: 'oneOf', values: [] }); // biome-ignore format: one line
    expect(askAnew({ field: 'type', op: 'contains', value: 'A' }, 'name')).toEqual({ field: 'name', op: 'contains', value: '' }); // biome-ignore format: one line
    expect(askAnew(range, 'host')).toEqual({ field: 'host', op: 'present' });
    expect(askAnew({ field: 'tag', op: 'missing' }, 'type')).toEqual({ field: 'type', op: 'missing' });
  });

  it('changes its field, test and value, and is joined with others', async () => {
    const user = userEvent.setup();
    renderThemed(<Editor first={{ field: 'quantity', of: 'Length', op: 'range', min: 2 }} />);
    await pick('Field', 'Storey');
    expect(now).toEqual({ field: 'storey', op: 'is', value: '' });
    await user.type(screen.getByPlaceholderText('Value, * for any text'), 'Upper floor');
    expect(now).toMatchObject({ field: 'storey', op: 'is', value: 'Upper floor' });
    await pick('Test', 'is not');
    expect(now).toMatchObject({ not: { field: 'storey', op: 'is', value: 'Upper floor' } });
    await user.click(screen.getByRole('button', { name: 'Add a condition' }));
    expect(now).toMatchObject({
      all: [{ not: { field: 'storey' } }, { field: 'material', op: 'contains', value: '' }],
    });
    await pick('Joined by', 'any of these holds');
    expect(now).toMatchObject({ any: [{ not: { field: 'storey' } }, { field: 'material' }] });
    await user.click(screen.getAllByRole('button', { name: 'Take this condition out' })[0]!);
    expect(now).toMatchObject({ field: 'material', op: 'contains' });
  }, 30_000);

  it('is begun from what the selected element is, and from a named scope', async () => {
    const user = userEvent.setup();
    renderThemed(<Editor first={{ field: 'class', op: 'is', value: 'IfcDoor' }} />);
    await user.click(screen.getByRole('button', { name: 'Like the selected element' }));
    expect(now).toEqual({
      all: [
        { field: 'class', op: 'is', value: 'IfcWall' },
        { field: 'type', op: 'is', value: 'Outer wall' },
        { field: 'material', op: 'is', value: 'Timber' },
        { field: 'material', op: 'is', value: 'Render' },
      ],
    });
    await user.click(screen.getByRole('button', { name: 'Add a named scope' }));
    expect((now as { all: unknown[] }).all).toHaveLength(5);
    expect((now as { all: { named?: string }[] }).all[4]?.named).toBe('outer');
  }, 30_000);

  it('of several levels is told, and stays unless it is begun anew', async () => {
    const user = userEvent.setup();
    const nested: Condition = { all: [{ any: [{ field: 'tag', op: 'present' }] }, { field: 'type', op: 'present' }] };
    expect(splitCondition(nested)).toBeNull();
    renderThemed(<Editor first={nested} />);
    expect(screen.getByText(/joins conditions in several levels/)).toBeTruthy();
    expect(now).toBe(nested);
    await user.click(screen.getByRole('button', { name: 'start anew' }));
    expect(now).toEqual({ field: 'class', op: 'is', value: 'IfcWall' });
  }, 30_000);

  it('splits into rows and joins again to the same', () => {
    const rows = listTestsLike(TABLE, 0);
    for (const condition of [
      joinCondition('all', rows),
      joinCondition('any', rows),
      joinCondition('all', rows.slice(0, 1)),
    ]) {
      const split = splitCondition(condition)!;
      expect(joinCondition(split.join, split.rows)).toEqual(condition);
    }
    expect(listTestsLike(TABLE, 1).map((r) => (r.test as FieldCondition).field)).toEqual(['class']);
  });
});
