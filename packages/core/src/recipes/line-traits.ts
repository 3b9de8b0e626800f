import type { CompiledFormula } from '../formulas/compile-formula.ts';
import type { ElementField } from '../formulas/formula-types.ts';
import { nameKey } from '../units/code-key.ts';
import { isRateByElement } from './item-rate.ts';
import { formulaSignature, listRecipeLeaves, type RecipeAssembly, type RecipeStep, recipeSignature } from './recipe.ts';

/** What decides the cells of one leaf line of a recipe. */
export interface LineTraits {
  /** Everything beside the element that its net quantity depends on: lines of one signature give the same on the same element. */
  readonly signature: string;
  /** Fields of the element that it depends on. */
  readonly reads: readonly ElementField[];
  /** It, or what it lies in, reads the result of another line. */
  readonly usesResults: boolean;
}

/** What the lines of an assembly have around them. */
interface Around {
  readonly signature: string;
  readonly reads: readonly ElementField[];
  readonly usesResults: boolean;
  /** Named lines of the assembly that a step lies in. */
  readonly named: RecipeAssembly['named'];
}

const known = new WeakMap<RecipeStep, readonly LineTraits[]>();

/** Traits of the leaf lines of a recipe, in the order of `listRecipeLeaves`. */
export function listLineTraits(recipe: RecipeStep): readonly LineTraits[] {
  let traits = known.get(recipe);
  if (!traits) {
    traits = listTraits(recipe, { signature: '', reads: [], usesResults: false, named: [] });
    known.set(recipe, traits);
  }
  return traits;
}

function listTraits(step: RecipeStep, around: Around): LineTraits[] {
  if (step.kind === 'broken')
    return [
      {
        signature: `${around.signature}${recipeSignature(step)}`,
        reads: around.reads,
        usesResults: around.usesResults,
      },
    ];
  const own = listOwnFormulas(step);
  const used = findUsedLines(own, around.named);
  const results = used.map(({ name, step: line }) => `${name}=${recipeSignature(line)}`);
  const reads = new Set<ElementField>([
    ...around.reads,
    ...own.flatMap((f) => f.reads),
    ...used.flatMap(({ step: line }) => listAllFormulas(line).flatMap((f) => f.reads)),
  ]);
  const usesResults = around.usesResults || used.length > 0;
  // What runs over parts depends on how many there are, whatever it reads of them.
  if (step.per !== null || used.some(({ step: line }) => line.kind !== 'broken' && line.per !== null))
    reads.add('parts');
  if (step.kind === 'item') {
    if (step.shared?.run === 'room') reads.add('room');
    for (const use of step.shared?.uses ?? [])
      for (const f of listAllFormulas(use.step)) for (const r of f.reads) reads.add(r);
    const uses = step.shared ? `<${step.shared.id}` : '';
    return [
      { signature: `${around.signature}${recipeSignature(step)}{${results}}${uses}`, reads: [...reads], usesResults },
    ];
  }
  const parameters = step.parameters.map((p) => `${p.name}${p.isHanded ? '<' : '='}${formulaSignature(p.formula)}`);
  const head = [step.assembly.unit, step.per, formulaSignature(step.driver), step.when && formulaSignature(step.when)];
  const signature = `${around.signature}[${head};${parameters};${results}]`;
  const inner = { signature, reads: [...reads], usesResults, named: step.named };
  return step.steps.flatMap((s) => listTraits(s, inner));
}

/** Formulas of a step that are worked out before, or for, any of its lines. */
function listOwnFormulas(step: RecipeStep): CompiledFormula[] {
  if (step.kind === 'broken') return [];
  const when = step.when ? [step.when] : [];
  if (step.kind === 'assembly') return [...when, step.driver, ...step.parameters.map((p) => p.formula)];
  const rate = isRateByElement(step.rate) ? [step.rate.formula!] : [];
  return [...when, step.quantity, ...(step.piece ? [step.piece] : []), ...rate];
}

function listAllFormulas(step: RecipeStep): CompiledFormula[] {
  return [...listOwnFormulas(step), ...listRecipeLeaves(step).flatMap(({ item }) => (item && item !== step ? listOwnFormulas(item) : []))]; // biome-ignore format: own and below
}

/** Named lines that formulas read, with those that these read in turn. */
function findUsedLines(formulas: readonly CompiledFormula[], named: RecipeAssembly['named']): RecipeAssembly['named'] {
  const found = new Map<string, RecipeAssembly['named'][number]>();
  const visit = (list: readonly CompiledFormula[]) => {
    for (const { slots } of list)
      for (const { source, name } of slots) {
        const line = source === 'line' ? named.find((n) => nameKey(n.name) === nameKey(name)) : undefined;
        if (!line || found.has(line.name)) continue;
        found.set(line.name, line);
        visit(listOwnFormulas(line.step));
      }
  };
  visit(formulas);
  return [...found.values()];
}
