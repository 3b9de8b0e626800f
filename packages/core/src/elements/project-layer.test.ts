import { describe, expect, it } from '@jest/globals';
import { compileFormula } from '../formulas/compile-formula.ts';
import { listQuantityNames } from '../recipes/recipe.ts';
import { evaluateScope, listMaskedRows } from '../scopes/evaluate-scope.ts';
import { NO_ADDITIONS } from '../testing/no-additions.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { findSimpleUnit } from '../units/unit.ts';
import { findQuantityOrigin, listEffectiveQuantities } from './effective-quantities.ts';
import { buildElementTable, readProperties } from './element-table.ts';
import type { PropertyValue } from './model-element.ts';
import { applyProjectLayer } from './project-layer.ts';

const table = buildElementTable(
  [
    sampleElement({ globalId: 'a', quantities: { Length: 5 } }),
    sampleElement({ globalId: 'b', quantities: { Length: 4 }, stated: { Length: 4.2 } }),
  ],
  Int32Array.of(1, 2),
);
const seen = applyProjectLayer(table, {
  ...NO_ADDITIONS,
  attributes: new Map<number, Record<string, PropertyValue>>([
    [1, { 'Render depth': '240 cm', Grade: 'fine', Coats: 2 }],
    [2, { Length: '4.5 m' }],
  ]),
});

describe('attributes added in a project', () => {
  it('are quantities where they are figures with a unit, and stay as they were typed', () => {
    const depth = listEffectiveQuantities(seen).get('render depth')!;
    expect([...depth.values]).toEqual([2.4, Number.NaN]);
    expect(depth.unit).toBe('m');
    expect(readProperties(seen, 0)).toEqual({ Added: { 'Render depth': '240 cm', Grade: 'fine', Coats: 2 } });
    expect(listEffectiveQuantities(seen).has('coats')).toBe(false);
  });
  it('beat what is measured and stated under the same name, and say so', () => {
    expect([...listEffectiveQuantities(seen).get('length')!.values]).toEqual([5, 4.5]);
    expect(findQuantityOrigin(seen, 1, 'Length')).toEqual({ basis: 'given', method: 'hand', exactness: null });
  });
  it('are caught by scopes and known to formulas, words joined', () => {
    const scope = { field: 'quantity', of: 'render depth', op: 'range', min: 2 } as const;
    expect(listMaskedRows(evaluateScope(scope, seen))).toEqual([0]);
    const names = listQuantityNames(listEffectiveQuantities(seen).values());
    expect(compileFormula('RenderDepth * Length', names, findSimpleUnit('m2')).ok).toBe(true);
    expect(compileFormula('RenderDepht * 2', names)).toMatchObject({
      problem: { remedy: 'Did you mean RenderDepth?' },
    });
    expect(compileFormula('RenderDepth', names, findSimpleUnit('kg'))).toMatchObject({
      problem: { code: 'formula-dimension' },
    });
  });
});
