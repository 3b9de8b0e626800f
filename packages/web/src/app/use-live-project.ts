import type { EventDto, JobDto, ProjectSourcesDto, RevisionDto } from '@tally/core';
import { ENTRY_SLICES, projectOf } from '@tally/core';
import { type QueryClient, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { listenToEvents } from '../store/event-stream.ts';
import {
  findingsKey,
  isBehind,
  planKey,
  projectKey,
  readAgain,
  refreshSlices,
  sourcesKey,
  summaryKey,
} from '../store/slices.ts';
import { tellChange } from '../store/tell-change.ts';

/** Keeps a project's data on screen as the server has it: nothing is ever refreshed by hand. */
export function useLiveProject(projectId: string): void {
  const client = useQueryClient();
  useEffect(() => {
    // What happens to a project happens to its options.
    const wanted = [...new Set([projectOf(projectId), projectId])];
    return listenToEvents(wanted, (event) => receive(client, projectId, event));
  }, [client, projectId]);
}

function receive(client: QueryClient, projectId: string, event: EventDto): void {
  const again = (...keys: (readonly unknown[])[]) => {
    for (const queryKey of keys) void readAgain(client, queryKey);
  };
  const patch = (change: (now: ProjectSourcesDto) => ProjectSourcesDto) =>
    client.setQueryData<ProjectSourcesDto>(sourcesKey(projectId), (now) => now && change(now));
  if (event.kind === 'readAgain') return again([]);
  if (event.kind === 'prices') return again([...projectKey(projectId), 'price-folder']);
  // A stream that is open: what its gap held beside changes is not told, nor what happened between the page's first reading and it.
  if (event.kind === 'here') {
    again(sourcesKey(projectId));
    void readAgain(client, summaryKey(projectId)).then(() => {
      if (isBehind(client, projectId)) void refreshSlices(client, projectId, ENTRY_SLICES);
    });
    return;
  }
  if (event.projectId !== projectId && event.projectId !== projectOf(projectId)) return;
  if (event.kind === 'change') void tellChange(client, { ...event.change, projectId }, event.slices);
  else if (event.kind === 'sources') {
    void refreshSlices(client, projectId, ENTRY_SLICES);
  } else if (event.kind === 'projects') again(['projects'], summaryKey(projectId));
  else if (event.kind === 'job') {
    patch((now) => ({ ...now, jobs: upsertJob(now.jobs, event.job) }));
    if (event.job.state !== 'running') again(sourcesKey(projectId));
  } else {
    const update = (r: RevisionDto) =>
      r.id === event.revisionId ? { ...r, chunks: event.chunks, geometryState: event.state } : r;
    patch((now) => ({ ...now, sources: now.sources.map((s) => ({ ...s, revisions: s.revisions.map(update) })) }));
    // Figures that are measured of the shapes may have come with them, and findings of the pictures.
    if (event.state === 'done')
      again(summaryKey(projectId), planKey(projectId), sourcesKey(projectId), findingsKey(projectId));
  }
}

function upsertJob(jobs: readonly JobDto[], job: JobDto): JobDto[] {
  return jobs.some((j) => j.id === job.id) ? jobs.map((j) => (j.id === job.id ? job : j)) : [job, ...jobs];
}
