import type { JobDto, ProjectStateDto, RevisionDto } from '@tally/core';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { listenToEvents } from '../api/event-stream.ts';
import { projectKey } from '../api/queries.ts';

/** Keeps a project's data on screen as the server has it: nothing is ever refreshed by hand. */
export function useLiveProject(projectId: string): void {
  const client = useQueryClient();
  useEffect(() => {
    const stateKey = [...projectKey(projectId), 'state'];
    const patch = (change: (state: ProjectStateDto) => ProjectStateDto) =>
      client.setQueryData<ProjectStateDto>(stateKey, (state) => state && change(state));
    return listenToEvents((event) => {
      if (event.kind === 'readAgain') return void client.invalidateQueries();
      if (event.kind === 'prices')
        return void client.invalidateQueries({ queryKey: [...projectKey(projectId), 'price-folder'] });
      if (event.projectId !== projectId) return;
      if (event.kind === 'change' || event.kind === 'sources')
        void client.invalidateQueries({ queryKey: projectKey(projectId) });
      else if (event.kind === 'projects') void client.invalidateQueries({ queryKey: ['projects'] });
      else if (event.kind === 'job') {
        patch((state) => ({ ...state, jobs: upsertJob(state.jobs, event.job) }));
        if (event.job.state !== 'running') void client.invalidateQueries({ queryKey: stateKey });
      } else {
        const update = (r: RevisionDto) =>
          r.id === event.revisionId ? { ...r, chunks: event.chunks, geometryState: event.state } : r;
        patch((state) => ({
          ...state,
          sources: state.sources.map((s) => ({ ...s, revisions: s.revisions.map(update) })),
        }));
        // Figures that are measured of the shapes may have come with them.
        if (event.state === 'done') void client.invalidateQueries({ queryKey: projectKey(projectId) });
      }
    });
  }, [client, projectId]);
}

function upsertJob(jobs: readonly JobDto[], job: JobDto): JobDto[] {
  return jobs.some((j) => j.id === job.id) ? jobs.map((j) => (j.id === job.id ? job : j)) : [job, ...jobs];
}
