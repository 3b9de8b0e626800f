import { LineState } from '../cells/cell-line.ts';
import { readText } from '../elements/columns.ts';
import { type CorrectedFacts, FACT_FIELDS, listCorrections } from '../elements/corrected-facts.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import {
  type ElementTable,
  findMeasured,
  listKeysByIdentity,
  readBox,
  readElement,
} from '../elements/element-table.ts';
import type { ProjectLayer } from '../elements/project-layer.ts';
import { listRowsByKey } from '../elements/rows-by-key.ts';
import type { PlanPart } from '../plan/plan.ts';
import { foldText } from '../units/fold-text.ts';
import { checkStatedRows, checkStoreys } from './check-elements.ts';
import { checkFinishes, checkStoreyLevels } from './check-model.ts';
import { OVERLAP_SHARE, reportOverlaps } from './check-overlaps.ts';
import { type Finding, type FindingCode, keyFindings } from './finding.ts';

/** By how much things may differ without a finding. */
export interface CheckThresholds {
  /** Share that a stated figure may differ from the measured one by. */
  readonly statedShare: number;
  /** Share of the smaller body that two may share. */
  readonly overlapShare?: number;
  /** How far an element may hang below its storey's level, m. */
  readonly belowStoreyM?: number;
}

/** Findings that depend on what the project says: they are looked for anew when it says something else. */
export const LIVE_CODES: ReadonlySet<FindingCode> = new Set<FindingCode>([
  'no-storey',
  'stated-differs',
  'overlap',
  'rooms-overlap',
  'storey-level-differs',
  'room-without-finish',
  'given-as-in-file',
  'given-moved',
]);

/** Findings that matter only where something is priced by what they are about. */
const CONSEQUENTIAL: ReadonlySet<FindingCode> = new Set<FindingCode>([
  'open-body',
  'volume-not-positive',
  'opening-not-measured',
]);

/**
 * What the checks find in a table as the project sees it.
 * @param plain the same table as the file has it
 * @param corrections what the project says otherwise
 */
export function checkTable(
  table: ElementTable,
  plain: ElementTable,
  { facts, given }: Corrections,
  { statedShare, overlapShare = OVERLAP_SHARE, belowStoreyM }: CheckThresholds,
): Finding[] {
  const ids = listKeysByIdentity(table);
  const places = listPlaces(table);
  const found = [
    ...checkStoreys(places),
    ...checkStatedRows(table, statedShare),
    ...reportOverlaps(table.sharedBodies ?? [], (row) => labelRow(table, row), overlapShare).filter(
      (f) => f.code !== 'coincident',
    ),
    ...checkStoreyLevels(places, table.storeys, belowStoreyM),
    ...checkFinishes(listRooms(table)),
    ...reportAgreed(plain, facts),
    ...reportMoved(plain, given),
  ];
  return keyFindings(found, (id) => ids.get(id));
}

/** What a project says otherwise than the file, by ElementKey: facts, and figures set by hand. */
export interface Corrections {
  readonly facts: ReadonlyMap<number, CorrectedFacts>;
  readonly given: NonNullable<ProjectLayer['given']>;
}

/** Figures set by hand under which the model's own has moved since, or has gone. */
function reportMoved(plain: ElementTable, given: Corrections['given']): Finding[] {
  if (given.size === 0) return [];
  const columns = listEffectiveQuantities(plain);
  const rowOf = listRowsByKey(plain.keys);
  return [...given].flatMap(([key, figures]) => {
    const row = rowOf.get(key);
    if (row === undefined) return [];
    return Object.entries(figures).flatMap(([name, { value, was }]): Finding[] => {
      const column = columns.get(name.toLowerCase());
      const now = column && !Number.isNaN(column.values[row]!) ? column.values[row]! : null;
      if (now === was || (now !== null && was !== null && isAlike(now, was))) return [];
      const show = (figure: number | null) => (figure === null ? 'no figure' : `${Number(figure.toPrecision(6))} ${column?.unit ?? ''}`.trim()); // biome-ignore format: one step
      return [
        {
          code: 'given-moved',
          severity: 'warning',
          message: `${labelElement(plain, row)}: ${name} was set to ${show(value)} by hand when the model had ${show(was)}; it has ${show(now)} by now. Set it anew, or take it back.`,
          globalIds: [readText(plain.identity, row) ?? ''],
          cause: name,
        },
      ];
    });
  });
}

/** Figures that differ by no more than what rounding does. */
const isAlike = (a: number, b: number) => Math.abs(a - b) <= Math.max(1e-6, 1e-6 * Math.abs(b));

/** What an element is called in findings: its class and name, its identity where it has no name. */
export const labelElement = (table: ElementTable, row: number): string =>
  `${readText(table.ifcClass, row) ?? ''} ${readText(table.name, row) ?? readText(table.identity, row) ?? ''}`;

function labelRow(table: ElementTable, row: number) {
  const ifcClass = readText(table.ifcClass, row) ?? '';
  const globalId = readText(table.identity, row) ?? '';
  const volume = findMeasured(table, 'GrossVolume')?.values[row];
  return {
    globalId,
    ifcClass,
    label: labelElement(table, row),
    volumeM3: volume ?? Infinity,
  };
}

function listPlaces(
  table: ElementTable,
): (Parameters<typeof checkStoreyLevels>[0][number] & { host: string | null })[] {
  return Array.from({ length: table.count }, (_, row) => {
    const box = readBox(table, row);
    return {
      globalId: readText(table.identity, row) ?? '',
      ifcClass: readText(table.ifcClass, row) ?? '',
      name: readText(table.name, row),
      storey: readText(table.storey, row),
      parent: readText(table.parent, row),
      host: readText(table.host, row),
      box: Number.isNaN(box[0]) || table.excluded?.[row] ? null : box,
    };
  });
}

const listRooms = (table: ElementTable) =>
  [...table.rooms.keys()]
    .filter((row) => table.rooms[row] && !table.excluded?.[row])
    .map((row) => readElement(table, row));

/** Corrections that the file has come up with itself. */
function reportAgreed(plain: ElementTable, facts: ReadonlyMap<number, CorrectedFacts>): Finding[] {
  const isSame = (a: string | boolean, b: string | boolean | null) =>
    typeof a === 'string' && typeof b === 'string' ? foldText(a) === foldText(b) : a === b;
  return listCorrections(plain, facts)
    .filter((c) => isSame(c.given, c.inFile))
    .map(({ row, field, given }) => {
      const words = FACT_FIELDS.find((f) => f.field === field)!.words;
      const what = typeof given === 'boolean' ? (given ? 'yes' : 'no') : given;
      return {
        code: 'given-as-in-file',
        severity: 'notice',
        message: `${readText(plain.ifcClass, row)} ${readText(plain.name, row) ?? readText(plain.identity, row)}: ${words} ${what} was given here; the file says the same by now.`,
        globalIds: [readText(plain.identity, row) ?? ''],
        cause: words,
      };
    });
}

/** Names of figures that the volume of a body goes into. */
export const VOLUMES = /volume|weight/i;

/** What of a plan findings may have a consequence for, by ElementKey. */
export interface FindingConsequences {
  /** Elements with a line whose figure is not known. */
  readonly troubled: ReadonlySet<number>;
  /** Elements that are priced by their volume or weight. */
  readonly byVolume: ReadonlySet<number>;
}

/** Elements of a part of a plan whose price stands on their volume, and those with a line that is not known. */
export function readConsequences({ table, blocks }: PlanPart): FindingConsequences {
  const [troubled, byVolume] = [new Set<number>(), new Set<number>()];
  for (const { mapped, lines } of blocks) {
    const isByVolume = VOLUMES.test(mapped.rule?.driver ?? '') || lines.some((l) => l.item?.quantity.slots.some((s) => VOLUMES.test(s.name))); // biome-ignore format: one test
    for (let at = 0; at < mapped.rows.length; at++) {
      const key = table.keys[mapped.rows[at]!]!;
      if (isByVolume) byVolume.add(key);
      if (lines.some((l) => l.state[at] === LineState.problem)) troubled.add(key);
    }
  }
  return { troubled, byVolume };
}

/** Findings that have a consequence for the plan; those without keys are about more than one can tell, and stay. */
export function keepConsequential(
  findings: readonly Finding[],
  { troubled, byVolume }: FindingConsequences,
): Finding[] {
  const told = new Set(findings.flatMap((f) => (f.code === 'double-count' ? [pairOf(f)] : [])));
  return findings.filter((finding) => {
    const { code, severity, keys } = finding;
    if (!keys || keys.length === 0) return true;
    // What is counted twice is told once, with its money.
    if ((code === 'coincident' || code === 'overlap') && told.has(pairOf(finding))) return false;
    if (CONSEQUENTIAL.has(code)) return keys.some((k) => troubled.has(k));
    return code !== 'overlap' || severity !== 'notice' || keys.every((k) => byVolume.has(k));
  });
}

const pairOf = ({ keys = [] }: Finding): string => [...keys].sort((a, b) => a - b).join();
