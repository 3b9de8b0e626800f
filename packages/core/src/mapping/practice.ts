import { classWord } from '../elements/class-word.ts';
import { codeKey } from '../units/code-key.ts';
import { foldText } from '../units/fold-text.ts';

/** What elements of a class, type and material were priced with in a project. */
export interface PracticeRow {
  readonly ifcClass: string;
  /** Type, or what elements without one are called; empty where they have neither. */
  readonly type: string;
  /** The material that most of them have; empty where they have none. */
  readonly material: string;
  readonly kind: 'item' | 'assembly';
  readonly code: string;
  readonly description: string;
  readonly unit: string;
  /** Name of the work section. */
  readonly section: string;
  readonly driver: string;
  readonly elements: number;
}

/** What a project of the same server does, and when it was changed last. */
export interface ProjectPractice {
  readonly projectId: string;
  readonly name: string;
  readonly at: string;
  readonly rows: readonly PracticeRow[];
}

/** What earlier projects price something like it with. */
export interface Suggestion {
  readonly kind: PracticeRow['kind'];
  readonly code: string;
  readonly description: string;
  readonly unit: string;
  readonly section: string;
  readonly driver: string;
  /** What is alike: the type, else the material of the same class, else only the class. */
  readonly by: 'type' | 'material' | 'class';
  readonly elements: number;
  readonly projects: readonly string[];
  /** When the last of them was changed. */
  readonly last: string;
}

/** What is asked about: elements of a class, a type or name, and their materials. */
export interface PracticeQuestion {
  readonly ifcClass: string;
  readonly type: string;
  readonly materials: readonly string[];
}

const RANKS = { type: 0, material: 1, class: 2 } as const;

/** Practices ready to be asked, by class. */
export class PracticeIndex {
  private readonly byClass = new Map<string, { readonly row: PracticeRow; readonly type: string; readonly material: string; readonly of: ProjectPractice }[]>(); // biome-ignore format: one record

  constructor(practices: readonly ProjectPractice[]) {
    for (const of of practices)
      for (const row of of.rows) {
        const list = this.byClass.get(row.ifcClass) ?? [];
        this.byClass.set(row.ifcClass, list);
        list.push({ row, type: foldText(row.type), material: foldText(row.material), of });
      }
  }

  /**
   * What earlier projects price such elements with, the most alike first, then what was done for most elements.
   * @example for walls of the type "Block 200" what their type was priced with comes before what other block walls were
   */
  suggest({ ifcClass, type, materials }: PracticeQuestion): Suggestion[] {
    const [wantedType, wanted] = [foldText(type), new Set(materials.map(foldText))];
    const found = new Map<string, Suggestion & { readonly ids: Set<string> }>();
    for (const { row, type: of, material, of: project } of this.byClass.get(ifcClass) ?? []) {
      const by =
        of !== '' && of === wantedType ? 'type' : material !== '' && wanted.has(material) ? 'material' : 'class';
      const id = `${row.kind}|${codeKey(row.code)}|${row.section}|${row.driver}`;
      const before = found.get(id);
      const ids = (before?.ids ?? new Set<string>()).add(project.projectId);
      const { kind, code, description, unit, section, driver } = row;
      const nearest = before && RANKS[before.by] < RANKS[by] ? before.by : by;
      found.set(id, {
        kind,
        code,
        description,
        unit,
        section,
        driver,
        by: nearest,
        elements: (before?.elements ?? 0) + row.elements,
        projects: before?.projects.includes(project.name)
          ? before.projects
          : [...(before?.projects ?? []), project.name],
        last: before && before.last > project.at ? before.last : project.at,
        ids,
      });
    }
    return [...found.values()]
      .map(({ ids: _, ...suggestion }) => suggestion)
      .sort((a, b) => RANKS[a.by] - RANKS[b.by] || b.elements - a.elements || (a.last < b.last ? 1 : -1) || (a.code < b.code ? -1 : 1)); // biome-ignore format: one order
  }
}

/** What is alike, in words. @example 'of the same type' */
export function sayAlike({ by }: Pick<Suggestion, 'by'>, ifcClass: string): string {
  return by === 'class' ? `another ${classWord(ifcClass).toLowerCase()}` : `of the same ${by}`;
}
