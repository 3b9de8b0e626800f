import { ThemeProvider } from '@mui/material/styles';
import { type ProjectStateDto, templateSchema } from '@tally/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { configure, render } from '@testing-library/react';
import { SnackbarProvider } from 'notistack';
import type { ReactNode } from 'react';
import { MemoryRouter, Route, Routes } from 'react-router';
import { theme } from '../app/theme.ts';
import { ProjectProvider } from '../store/project-store.tsx';
import { SelectionProvider } from '../store/selection.tsx';
import { sampleLayer } from './sample-layer.ts';

// A machine with much to do takes longer than the second that is usual.
configure({ asyncUtilTimeout: 8000 });

interface Answer {
  readonly status?: number;
  readonly body: unknown;
}
/** What the server answers to a request, perhaps later: by method and path; a text that a path begins with will do. */
export type Answers = Readonly<Record<string, (body: unknown) => Answer | Promise<Answer>>>;

/** A request that was made. */
export interface Asked {
  readonly what: string;
  readonly body: unknown;
}

/** A refusal as the server words it. */
export const refuse = (detail: string, code = 'change-conflict', status = 409) => ({
  status,
  body: { type: 'about:blank', title: 'Conflict', status, code, detail, remedy: 'Look at the newest state and try again.' }, // biome-ignore format: one answer
});

/** A project with two items, an assembly and a rule. */
export function sampleState(change: Partial<ProjectStateDto> = {}): ProjectStateDto {
  const {
    format: _,
    name: __,
    ...basis
  } = templateSchema.parse({
    format: 'crisp-tally-template/1',
    name: 'Sample',
    settings: { currency: 'EUR', units: 'metric' },
    items: [
      { code: 'M-LOCK', description: 'Locker, steel', kind: 'material', unit: 'each', rate: '128.00' },
      { code: 'L-CAR', description: 'Carpenter', kind: 'labour', unit: 'h', rate: '47.60', wastePercent: 5 },
    ],
    assemblies: [
      { code: 'A-SHELF', description: 'Shelf', unit: 'm', lines: [{ item: 'L-CAR', quantity: 'Driver * 0.5 h/m' }] },
    ],
    sections: [{ id: 'fit', name: 'Fittings' }],
    rules: [
      {
        id: 'lockers',
        name: 'Lockers',
        scope: { field: 'class', op: 'is', value: 'IfcFurniture' },
        section: 'fit',
        item: 'M-LOCK',
        driver: 'Count',
      },
    ],
  });
  return {
    project: { id: 'p', name: 'Sample', currency: 'EUR', seq: 7, createdAt: '2026-03-02T08:00:00.000Z' },
    summary: {
      currency: 'EUR',
      minorDigits: 2,
      total: 307_200,
      unknownLines: 0,
      counts: { priced: 24, partly: 0, unpriced: 3, leftOut: 0 },
      shortfall: null,
      building: { floorAreaM2: null, storeysWithoutArea: [], storeys: [], units: [] },
      target: null,
      caught: { lockers: 24 },
      priced: { lockers: 24 },
    },
    manifest: { engineVersion: '1', bookHash: '', rulesHash: '', additionsHash: '', sources: [] },
    basis: { ...basis, pins: [], checked: [], swaps: [] },
    layer: sampleLayer(),
    classifications: [],
    accepted: {},
    views: {},
    planViews: {},
    notes: {},
    baselines: {},
    options: {},
    book: null,
    listProfiles: {},
    priceSheets: {},
    orders: { rules: null, sections: null },
    sources: [],
    jobs: [],
    ...change,
  };
}

/** Draws a part of the interface that knows of no project. */
export const renderThemed = (content: ReactNode) => render(<ThemeProvider theme={theme}>{content}</ThemeProvider>);

/** Draws a part of a project's pages in a browser that is made up, with a server that answers as it is told. */
export function renderInProject(content: ReactNode, answers: Answers = {}, first: ProjectStateDto = sampleState()) {
  const asked: Asked[] = [];
  window.innerWidth = 1280;
  globalThis.fetch = (async (path: string, init: RequestInit = {}) => {
    const what = `${init.method ?? 'GET'} ${path.replace('/api/projects/p', '')}`;
    const body = typeof init.body === 'string' ? JSON.parse(init.body) : undefined;
    asked.push({ what, body });
    const name = Object.keys(answers).find((key) => what.startsWith(key));
    const { status = 200, body: answer } = name ? await answers[name]!(body) : ({ body: [] } as Answer);
    return { ok: status < 400, status, json: async () => answer } as Response;
  }) as typeof fetch;
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  client.setQueryData(['project', 'p', 'summary'], { project: first.project, book: null });
  const tree = (state: ProjectStateDto) => (
    <ThemeProvider theme={theme}>
      <QueryClientProvider client={client}>
        <SnackbarProvider>
          <MemoryRouter initialEntries={['/projects/p/page']}>
            <Routes>
              <Route
                path="/projects/:projectId/*"
                element={
                  <ProjectProvider state={state}>
                    <SelectionProvider>{content}</SelectionProvider>
                  </ProjectProvider>
                }
              />
            </Routes>
          </MemoryRouter>
        </SnackbarProvider>
      </QueryClientProvider>
    </ThemeProvider>
  );
  const drawn = render(tree(first));
  return {
    ...drawn,
    /** Requests with a body that were made. */
    posted: () => asked.filter((a) => a.what.startsWith('POST')),
    /** The project comes to another state, as after somebody's change. */
    come: (state: ProjectStateDto) => drawn.rerender(tree(state)),
  };
}
