import type { Entry } from '../changes/entry-diff.ts';
import type { ProjectStateDto } from './project.ts';
import { type ProjectContents, readContents } from './project-contents.ts';
import type { EntrySlice, HeldSlice, ProjectSourcesDto, ProjectSummaryDto } from './slices.ts';

const read = new WeakMap<ReadonlyMap<string, Entry>, ProjectContents>();

/** A slice read; one that is held as it was gives the very objects of before. */
function readSlice({ entries }: HeldSlice, currency = ''): ProjectContents {
  const known = read.get(entries);
  if (known) return known;
  const contents = readContents([...entries.values()], currency);
  read.set(entries, contents);
  return contents;
}

/** A project put together of the parts in which it is read. What of a part did not change keeps its identity. */
export function composeProject(
  { project, summary, manifest, book }: ProjectSummaryDto,
  slices: Readonly<Record<EntrySlice, HeldSlice>>,
  { sources, jobs }: ProjectSourcesDto,
): ProjectStateDto {
  const { basis: prices, classifications } = readSlice(slices.book);
  const { basis: deciding, orders } = readSlice(slices.rules);
  const { layer } = readSlice(slices.layer);
  const { settings } = readSlice(slices.settings, project.currency);
  const { accepted, views, planViews, notes, baselines, options, priceSheets, listProfiles } = readSlice(slices.notes);
  const { items, assemblies, values, scales, bands } = prices;
  const { sections, rules, scopes, pins, expected, targets, checked, swaps } = deciding;
  return {
    project,
    summary,
    manifest,
    basis: {
      items,
      assemblies,
      values,
      scales,
      bands,
      sections,
      rules,
      scopes,
      pins,
      expected,
      targets,
      checked,
      swaps,
      settings,
    } as ProjectStateDto['basis'],
    layer,
    classifications,
    accepted,
    views,
    planViews,
    notes,
    baselines,
    options,
    book,
    listProfiles,
    priceSheets,
    orders,
    sources,
    jobs,
  };
}
