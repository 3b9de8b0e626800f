import {
  type ElementStatesDto,
  type GroupField,
  INTENSITY_UNITS,
  type IntensityUnit,
  measureIntensity,
  nameGroup,
  type PlanDto,
  readGroupField,
  stepQuantiles,
} from '@tally/core';
import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { getJson } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { planQuery, usePlan, useTargets } from '../../store/queries.ts';
import { readStates } from '../../store/read-states.ts';
import { planKey } from '../../store/slices.ts';
import { useElements } from '../../store/use-elements.ts';
import { showFigure, showMinor, showUnit } from '../../ui/format.ts';
import { useSchemePalette } from '../../ui/use-scheme.ts';
import type { ElementPattern } from '../../viewer/index.ts';

/** What the colours of the model say: as drawn, how complete, cost per unit, groups of the plan, groups over or under their target. */
export type ColourMode = 'natural' | 'completeness' | `intensity:${IntensityUnit}` | `group:${string}` | 'target';

/** Fields that the model can be coloured by. */
export const COLOUR_FIELDS: readonly GroupField[] = [
  'section',
  'storey',
  'kind',
  'supplier',
  'zone',
  'room',
  'material',
  'rule',
];

/** A colour mode as it stands in an address. */
export function readColourMode(text: string): ColourMode {
  const unit = /^intensity:(.*)$/.exec(text)?.[1];
  if (unit !== undefined) return INTENSITY_UNITS.includes(unit as IntensityUnit) ? (text as ColourMode) : 'natural';
  const field = /^group:(.*)$/.exec(text)?.[1];
  if (field !== undefined) return readGroupField(field) ? (text as ColourMode) : 'natural';
  return text === 'completeness' || text === 'target' ? text : 'natural';
}

/** A colour with what it stands for, and the elements that have it. */
export interface ColourEntry {
  readonly colour: string;
  /** Plain if absent. */
  readonly pattern?: ElementPattern;
  readonly label: string;
  readonly note: string;
  readonly keys: readonly number[];
}

export interface ModelColours {
  /** Colour and pattern by ElementKey; what has none is drawn by its edges. Null where the mode has no colours of its own. */
  readonly colourOf: ReadonlyMap<number, Pick<ColourEntry, 'colour' | 'pattern'>> | null;
  readonly legend: readonly ColourEntry[];
  readonly title: string;
}

const PLAIN: ModelColours = { colourOf: null, legend: [], title: '' };
/** Patterns of groups one after the other: neighbours differ without their colours. */
const TURNS: readonly ElementPattern[] = ['plain', 'rising', 'dots', 'falling'];
/** Groups that have a colour of their own; what is beyond shares the last. */
const MOST_GROUPS = 9;

/** The colours of a mode with their legend. */
export function useModelColours(mode: ColourMode, states: readonly ElementStatesDto[] | undefined): ModelColours {
  const { project, money } = useProjectState('project', 'money');
  const { tables } = useElements();
  const { tally } = useSchemePalette();
  const field = mode.startsWith('group:') ? readGroupField(mode.slice(6)) : null;
  const view = useMemo(() => ({ by: field ? [field] : [] }), [field]);
  const { data: plan } = usePlan(project.id, view);
  const groups = useMemo(() => (field && plan?.view.by[0] === field ? listShownGroups(plan) : []), [plan, field]);
  const { data: targets } = useTargets(project.id, mode === 'target');
  const over = useMemo(
    () => (mode === 'target' ? (targets ?? []).filter((t) => t.target.by !== undefined && t.left !== null) : []),
    [mode, targets],
  );
  const asked = [
    ...groups.map((g) => ({ by: field!, label: g.label })),
    ...over.map((t) => ({ by: t.target.by!, label: t.target.is! })),
  ];
  const members = useQueries({
    queries: asked.map(({ by, label }) => ({
      queryKey: [...planKey(project.id), 'members', by, label],
      queryFn: () =>
        getJson<number[]>(`/projects/${project.id}/plan/elements?${planQuery({ by: [by] })}&id=${encodeURIComponent(`/${encodeURIComponent(label)}`)}`), // biome-ignore format: one question
    })),
    combine: (all) => all.map((q) => q.data),
  });
  return useMemo((): ModelColours => {
    if (mode.startsWith('intensity:')) {
      const unit = mode.slice(10) as IntensityUnit;
      const known = readStates(states);
      const values = measureIntensity(
        tables,
        (key) => ({ state: 'priced', amount: known.get(key)?.amount ?? 0 }),
        unit,
      );
      const show = (value: number) => showFigure(value / 10_000 / 10 ** money.minorDigits, 2);
      const steps = stepQuantiles(values, tally.ramp.length);
      // Few steps are spread over the whole ramp.
      const tone = (i: number) => tally.ramp[steps.length === 1 ? 2 : Math.round((i * (tally.ramp.length - 1)) / (steps.length - 1))]!; // biome-ignore format: one step
      return toColours(
        `${money.currency} per ${unit === 'each' ? 'piece' : showUnit(unit)}`,
        steps.map((s, i) => ({ colour: tone(i), label: s.from === s.to ? show(s.from) : `${show(s.from)} to ${show(s.to)}`, note: `${s.keys.length}`, keys: s.keys })),
      ); // biome-ignore format: a step an entry
    }
    if (field)
      return toColours(
        nameGroup(field).word,
        joinLast(groups.map((g, i) => ({ colour: tally.groups[Math.min(i, MOST_GROUPS)]!, pattern: TURNS[i % TURNS.length], label: g.label, note: showMinor(g.minor, money.minorDigits), keys: members[i] ?? [] })), MOST_GROUPS, showMinor(groups.slice(MOST_GROUPS).reduce((sum, g) => sum + g.minor, 0), money.minorDigits)),
      ); // biome-ignore format: a group an entry
    if (mode === 'target')
      return toColours(
        'Left of target',
        over.map((t, i) => ({ colour: t.left! < 0 ? tally.error : tally.pricedBody, pattern: t.left! < 0 ? ('rising' as const) : ('plain' as const), label: t.label, note: showMinor(t.left!, money.minorDigits), keys: members[i] ?? [] })),
      ); // biome-ignore format: a target an entry
    return PLAIN;
  }, [mode, states, tables, field, groups, over, members, money, tally]);
}

/** Groups of a plan that have elements in it, the most money first. */
function listShownGroups(plan: PlanDto | undefined): readonly { readonly label: string; readonly minor: number }[] {
  return [...(plan?.groups ?? [])].filter((g) => g.minor > 0 && g.lines.some((l) => l.elements > 0 && l.cells > l.open)).sort((a, b) => b.minor - a.minor); // biome-ignore format: one list
}

/** The first entries, and all that follow as one. */
export function joinLast(entries: readonly ColourEntry[], most: number, note: string): readonly ColourEntry[] {
  if (entries.length <= most + 1) return entries;
  const rest = entries.slice(most);
  return [
    ...entries.slice(0, most),
    {
      colour: rest[0]!.colour,
      pattern: 'plain',
      label: `${rest.length} others`,
      note,
      keys: rest.flatMap((e) => [...e.keys]),
    },
  ];
}

/** Colours by element: one that is in several entries has that of the first. */
export function toColours(title: string, legend: readonly ColourEntry[]): ModelColours {
  const colourOf = new Map<number, ColourEntry>();
  for (const entry of legend) for (const key of entry.keys) if (!colourOf.has(key)) colourOf.set(key, entry);
  return { colourOf, legend, title };
}
