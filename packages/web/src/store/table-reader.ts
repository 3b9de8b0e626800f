import {
  applyAdditions,
  buildDrawnRooms,
  buildProjectAllowances,
  decodeElementTable,
  type ElementTable,
  listEffectiveQuantities,
  type Mapping,
  mapElements,
  type Pin,
  type PricingRule,
  type ProjectStateDto,
  readAdditions,
  receiveParts,
  type TablePartsDto,
} from '@tally/core';
import { packSeen } from './packed-lists.ts';
import type { SeenTable } from './seen-table.ts';
import { findPatch, keepSame, type Patch } from './table-patch.ts';

/** The rooms drawn here, and the costs without an object, among the revisions of models. */
export const DRAWN = 'drawn';
export const ALLOWANCES = 'allowances';

/** The elements of a project that are asked for: those of revisions, with what the project adds to them. */
export interface TablesRequest {
  readonly projectId: string;
  readonly revisions: readonly string[];
  readonly layer: ProjectStateDto['layer'];
  readonly settings: Pick<
    ProjectStateDto['basis']['settings'],
    'quantityChoices' | 'quantityOverrides' | 'functionalUnits'
  >;
  readonly parts: readonly TablePartsDto[] | undefined;
}

/** Who decides about the elements of one source. */
export interface SourceMapping {
  readonly id: string;
  readonly mapping: Mapping;
}

/** Of every source, in their order, what changed of its packed table since the last answer about its project. */
export type TablesAnswer = readonly { readonly id: string; readonly patch: Patch }[];

/**
 * Decodes element tables and lays over them what a project adds, once for all pages. It remembers what it answered, so that a change of one
 * column sends one column. Answers are to be taken in the order in which they were asked for.
 */
export class TableReader {
  private readonly plain = new Map<string, Promise<ElementTable>>();
  private readonly told = new Map<string, ReadonlyMap<string, SeenTable>>();

  constructor(private readonly readBytes: (path: string) => Promise<Uint8Array>) {}

  /** Errors: what reading the bytes fails with, or in words what is wrong with them. */
  async read(request: TablesRequest): Promise<TablesAnswer> {
    const { projectId, revisions } = request;
    const tables = await Promise.all(revisions.map((id) => this.open(projectId, id)));
    const before = this.told.get(projectId) ?? new Map<string, SeenTable>();
    const seen = this.see(request, tables);
    const now = new Map<string, SeenTable>();
    const answer = seen.map((next) => {
      const was = before.get(next.id);
      const kept = was ? keepSame(was, next) : next;
      now.set(next.id, kept);
      const packed = packSeen(kept);
      return {
        id: next.id,
        patch: was ? findPatch(packSeen(was), packed) : ({ kind: 'value', value: packed } as const),
      };
    });
    this.told.set(projectId, now);
    return answer;
  }

  /**
   * Who decides about the elements of a project as they were told last, by source.
   * @returns the mappings in the order of the sources; none of a project that was never read
   */
  map(projectId: string, rules: readonly PricingRule[], pins: readonly Pin[]): SourceMapping[] {
    const seen = [...(this.told.get(projectId)?.values() ?? [])];
    return seen.map(({ id, table }) => ({ id, mapping: mapElements(table, rules, pins) }));
  }

  /** Forgets what was told of a project, and its tables. */
  forget(projectId: string): void {
    for (const id of this.told.get(projectId)?.keys() ?? []) this.plain.delete(id);
    this.told.delete(projectId);
  }

  private open(projectId: string, id: string): Promise<ElementTable> {
    const known = this.plain.get(id);
    if (known) return known;
    const table = this.readBytes(`/projects/${projectId}/revisions/${id}/elements`).then((bytes) => {
      const decoded = decodeElementTable(bytes);
      if (!decoded.ok) throw new Error(`${decoded.problem.message} ${decoded.problem.remedy ?? ''}`);
      return decoded.value;
    });
    this.plain.set(id, table);
    table.catch(() => this.plain.delete(id));
    return table;
  }

  private see({ revisions, layer, settings, parts }: TablesRequest, tables: readonly ElementTable[]): SeenTable[] {
    const additions = readAdditions(layer, settings);
    const partsOf = (id: string) => {
      const own = parts?.find((p) => p.revisionId === id);
      return own ? receiveParts(own) : null;
    };
    const add = (id: string, plain: ElementTable): SeenTable => {
      const table = applyAdditions(plain, additions, partsOf(id));
      const named = [...listEffectiveQuantities(table).values()].map(({ name, unit }) => ({ name, unit }));
      return { id, plain, table, named };
    };
    const seen = tables.map((plain, i) => add(revisions[i]!, plain));
    const drawn = buildDrawnRooms(
      additions.drawnRooms,
      seen.flatMap((s) => s.table.wallOpenings),
    );
    if (drawn) seen.push(add(DRAWN, drawn));
    const allowances = buildProjectAllowances(
      additions,
      seen.map((s) => s.table),
    );
    if (allowances) seen.push(add(ALLOWANCES, allowances));
    return seen;
  }
}
