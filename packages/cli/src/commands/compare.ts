import {
  checkSameMoney,
  diffElements,
  type ElementTable,
  explainMove,
  failure,
  groupMove,
  listTemplateSources,
  type MoveState,
  minorToMajor,
  type Result,
  readGroupField,
  readText,
  runPipeline,
  showMove,
  success,
  type Template,
  templateToBasis,
  toMoveState,
} from '@tally/core';
import { readModel, readTemplateFile, toTable } from '../input.ts';

/** What `compare` may be told beside the models. */
export interface CompareOptions {
  /** Template that the new model is priced by; the one of the old if absent. */
  readonly newTemplate?: string;
  /** Field that moves are grouped by; work section if absent. */
  readonly groupBy?: string;
}

/** A model priced by a template. */
export interface PricedModel {
  readonly table: ElementTable;
  readonly state: MoveState;
}

/** Prices a table by a template. */
export function priceTable(template: Template, table: ElementTable): PricedModel {
  const basis = templateToBasis(template);
  const sources = listTemplateSources(template, table);
  return { table, state: toMoveState(basis, sources, runPipeline(basis, sources)) };
}

/** `compare OLD.ifc NEW.ifc --template T.json`: what came, went and changed, and the move of the total by its causes. */
export async function compare(
  oldPath: string,
  newPath: string,
  templatePath: string,
  options: CompareOptions = {},
): Promise<Result<unknown>> {
  const template = readTemplateFile(templatePath);
  if (!template.ok) return template;
  const old = await readModel(oldPath);
  if (!old.ok) return old;
  return compareWith(priceTable(template.value, toTable(old.value)), newPath, template.value, options);
}

/** Compares a priced model with one of a file. */
export async function compareWith(
  before: PricedModel,
  newPath: string,
  template: Template,
  { newTemplate, groupBy = 'section' }: CompareOptions,
): Promise<Result<unknown>> {
  const field = readGroupField(groupBy);
  if (!field)
    return failure('field-unknown', `There is no field ${groupBy}.`, { remedy: 'Take one that plans are grouped by.' });
  const other = newTemplate === undefined ? success(template) : readTemplateFile(newTemplate);
  if (!other.ok) return other;
  const fresh = await readModel(newPath);
  if (!fresh.ok) return fresh;
  const after = priceTable(other.value, toTable(fresh.value, before.table));
  const same = checkSameMoney(before.state, after.state);
  if (!same.ok) return same;
  const move = explainMove(before.state, after.state);
  const shown = showMove(move);
  const { currency, minorDigits } = after.state.plan;
  const major = (minor: number) => minorToMajor(minor, minorDigits);
  const causesOf = (causes: Readonly<Record<string, number>>) =>
    Object.fromEntries(Object.entries(causes).map(([cause, minor]) => [cause, major(minor)]));
  return success({
    currency,
    from: major(shown.before),
    to: major(shown.after),
    move: major(shown.move),
    causes: causesOf(shown.causes),
    groups: groupMove(before.state, after.state, move, field).map(({ label, shown: g }) => ({
      label,
      from: major(g.from),
      to: major(g.to),
      move: major(g.move),
      causes: causesOf(g.causes),
    })),
    elements: describeElements(before.table, after.table),
    doubtful: listIdentified(before.table, after.table, false),
  });
}

/** Elements that came, went, changed or came under another id, by their GlobalIds. */
function describeElements(before: ElementTable, after: ElementTable) {
  const diff = diffElements(before, after);
  return {
    added: diff.added.map((row) => readText(after.identity, row)),
    removed: diff.removed.map((row) => readText(before.identity, row)),
    changed: diff.changed.map(({ row, quantities, attributes, movedM }) => ({
      globalId: readText(after.identity, row),
      quantities,
      attributes,
      ...(movedM > 0 ? { movedM } : {}),
    })),
    rematched: listIdentified(before, after, true),
  };
}

/** Elements that are known again under another id, or that may be: the id of before, the one of now, how alike they are. */
function listIdentified(
  before: ElementTable,
  after: ElementTable,
  isSure: boolean,
): readonly (readonly [from: string | null, to: string | null, score: number])[] {
  const { identified } = after;
  if (!identified) return [];
  const rowBefore = new Map([...before.keys].map((key, row) => [key, row]));
  return [...identified.rows].flatMap((row, i) => {
    const old = rowBefore.get(identified.was[i]!);
    if ((identified.sure[i] === 1) !== isSure || old === undefined) return [];
    return [[readText(before.identity, old), readText(after.identity, row), Number(identified.score[i]!.toFixed(4))] as const]; // biome-ignore format: one pair
  });
}
