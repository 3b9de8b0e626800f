/** @jest-environment jsdom */
import { buildElementTable } from '@tally/core';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { useSelection } from '../../store/selection.tsx';
import { giveSizes } from '../../testing/give-sizes.ts';
import { renderInProject } from '../../testing/in-project.tsx';
import { sampleElement } from '../../testing/sample-table.ts';
import { ElementTree } from './element-tree.tsx';

const storey = (name: string, elevation: number) => ({ name, elevation, gfa: null, gfaMethod: null });
const table = buildElementTable(
  [
    sampleElement('a', 'Outer wall', 'IfcWall', 'Upper floor'),
    sampleElement('b', 'Wet partition', 'IfcWallStandardCase', 'Upper floor'),
    sampleElement('c', 'Pad 1A', 'IfcFooting', 'Foundations'),
    sampleElement('d', 'Gate', 'IfcDoor', null),
  ],
  Int32Array.of(11, 12, 13, 14),
  { storeys: [storey('Upper floor', 3.4), storey('Foundations', -1)] as never },
);
const MODELS = [{ table, plain: table, offset: 0, revision: { id: 'r' } }] as unknown as LoadedModel[];

function Selected() {
  const { keys } = useSelection();
  return <output>{[...keys].join()}</output>;
}
const selected = () => document.querySelector('output')!.textContent;
const labels = () => screen.getAllByRole('treeitem').map((item) => item.textContent);
const draw = () =>
  renderInProject(
    <>
      <ElementTree models={MODELS} states={undefined} />
      <Selected />
    </>,
  );

beforeAll(giveSizes);
beforeEach(() => localStorage.clear());

describe('the tree of elements', () => {
  it('goes from the lowest storey up; what is in none comes last; classes are words', async () => {
    const user = userEvent.setup();
    draw();
    expect(labels()).toEqual(['Foundations1', 'Upper floor2', 'No storey1']);
    await user.click(screen.getByText('Upper floor'));
    // Two classes with one word are one branch.
    expect(labels()).toEqual(['Foundations1', 'Upper floor2', 'Wall2', 'No storey1']);
    expect(selected()).toBe('11,12');
  });
  it('is gone through by keys from one tab stop: opened, chosen, found by typing', async () => {
    const user = userEvent.setup();
    draw();
    const tree = screen.getByRole('tree');
    for (let n = 0; n < 5 && document.activeElement !== tree; n++) await user.tab();
    expect(document.activeElement).toBe(tree);
    const active = () => document.getElementById(tree.getAttribute('aria-activedescendant')!)!;
    await user.keyboard('upp');
    expect([active().textContent, active().getAttribute('aria-level')]).toEqual(['Upper floor2', '1']);
    await user.keyboard('{ArrowRight}{ArrowRight}{ArrowRight}{ArrowRight}');
    expect([active().textContent, active().getAttribute('aria-level')]).toEqual(['Outer wall', '3']);
    await user.keyboard('{ArrowDown} ');
    expect(selected()).toBe('12');
    await user.keyboard('{ArrowLeft}{ArrowLeft}');
    expect(active().getAttribute('aria-expanded')).toBe('false');
    // Nothing of it is a second tab stop.
    await user.tab();
    expect(tree.contains(document.activeElement)).toBe(false);
  });
  it('is narrowed by what is looked for, with how much of it there is', async () => {
    const user = userEvent.setup();
    draw();
    await user.type(screen.getByRole('textbox', { name: 'Find in the tree' }), 'wet');
    expect(labels()).toEqual(['Upper floor1', 'Wall1', 'Wet partition']);
  });
});
