import {
  composeProject,
  ENTRY_SLICES,
  type EntrySlice,
  type EntrySliceDto,
  type HeldSlice,
  mergeSlice,
  type ProjectSourcesDto,
  type ProjectStateDto,
  type ProjectSummaryDto,
} from '@tally/core';

/** All of a project, put together of its parts as pages do. @param read reads an address of the interface */
export async function readState(read: <T>(path: string) => Promise<T>, project: string): Promise<ProjectStateDto> {
  // The work on files first: what it says is done is in what is read after it.
  const sources = await read<ProjectSourcesDto>(`/projects/${project}/sources`);
  const slices: Partial<Record<EntrySlice, HeldSlice>> = {};
  for (const name of ENTRY_SLICES)
    slices[name] = mergeSlice(undefined, await read<EntrySliceDto>(`/projects/${project}/slices/${name}`));
  const summary = await read<ProjectSummaryDto>(`/projects/${project}`);
  return composeProject(summary, slices as Record<EntrySlice, HeldSlice>, sources);
}
