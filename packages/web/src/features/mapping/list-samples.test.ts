import { buildElementTable, FormulaNames, listQuantityNames } from '@tally/core';
import { sampleElement } from '../../testing/sample-table.ts';
import { listSamples } from './list-samples.ts';

const wall = (id: string, typeName: string) => sampleElement(id, id, 'IfcWall', null, { typeName });
const tables = [buildElementTable([wall('a', 'Partition 100 EI30'), wall('b', 'Partition 100 EI30'), wall('c', 'Partition 150 EI60'), wall('d', 'Plain')], Int32Array.of(1, 2, 3, 4))]; // biome-ignore format: one table
const names = new FormulaNames([...listQuantityNames().list()]);
const all = { scope: { all: [] } };

describe('a value of a parameter on samples of the model', () => {
  it('is worked out once for each type that the rule catches, in the unit of the parameter', () =>
    expect(listSamples('numberIn(typeName(), "Partition #") * 1 mm', 'mm', names, all, tables)).toEqual([
      { label: 'Partition 100 EI30', value: 100, problem: null },
      { label: 'Partition 150 EI60', value: 150, problem: null },
      { label: 'Plain', value: null, problem: '"Plain" has no figure at the # of "Partition #".' },
    ]));
  it('a text is shown as it is', () =>
    expect(listSamples('typeName()', 'text', names, { scope: { field: 'name', op: 'is', value: 'd' } }, tables)).toEqual([
      { label: 'Plain', value: 'Plain', problem: null },
    ])); // biome-ignore format: one call
  it('a text that stands in another, or what is said where it does not', () =>
    expect(
      listSamples('textIn(typeName(), "EI@", "none")', 'text', names, all, tables).map((s) => s.value ?? s.problem),
    ).toEqual(['30', '60', 'none']));
  it('says nothing of a value that is the same for all, or wrong', () => {
    expect(listSamples('0.6 m', 'm', names, all, tables)).toEqual([]);
    expect(listSamples('numberIn(', 'm', names, all, tables)).toEqual([]);
    expect(listSamples('1', 'furlong', names, all, tables)).toEqual([]);
  });
});
