/** @jest-environment jsdom */
import type { JobDto, RevisionDto, SourceDto } from '@tally/core';
import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { SourcesPage } from './sources-page.tsx';

const revision = (n: number, state: RevisionDto['state'], change: Partial<RevisionDto> = {}): RevisionDto => ({
  id: `r${n}`, sourceId: 's', number: n, fileName: `boathouse-${n}.ifc`, state, elements: 100, matched: 100, schema: 'IFC4', lengthUnit: 'mm', fileTime: null, findingLines: 0, geometryState: 'done', chunks: 0, createdAt: '2026-05-01T10:00:00.000Z', ...change,
}); // biome-ignore format: one record
const job = (n: number, change: Partial<JobDto> = {}): JobDto =>
  ({ id: `j${n}`, fileName: `part-${n}.ifc`, state: 'failed', stage: '', share: 0, problem: { code: 'x', message: `Part ${n} is no model.`, remedy: 'Choose another file.' }, ...change }) as unknown as JobDto; // biome-ignore format: one record

const DROP = { path: '/data/drop/p', troubles: [], unknownFolders: [] };

/** Uploads that are sent, ended or broken off as the test says. */
class Upload {
  static open: Upload[] = [];
  upload: { onprogress?: (e: { lengthComputable: boolean; loaded: number; total: number }) => void } = {};
  status = 200;
  response: unknown = {};
  name = '';
  onload = () => {};
  onerror = () => {};
  onabort = () => {};
  open(): void {}
  setRequestHeader(): void {}
  send(form: FormData): void {
    this.name = (form.get('file') as File).name;
    Upload.open.push(this);
  }
  abort(): void {
    this.onabort();
  }
}
beforeAll(() => {
  globalThis.XMLHttpRequest = Upload as unknown as typeof XMLHttpRequest;
});
beforeEach(() => {
  Upload.open = [];
  localStorage.clear();
});

function open(state: Parameters<typeof sampleState>[0] = {}, answers = {}) {
  const drawn = renderInProject(
    <SourcesPage />,
    { 'POST /revisions': () => ({ body: {} }), 'POST /jobs': () => ({ body: {} }), 'POST /template': () => ({ body: {} }), 'GET /drop-folder': () => ({ body: DROP }), ...answers },
    sampleState(state),
  ); // biome-ignore format: one call
  return drawn;
}
const source = (...revisions: RevisionDto[]) => [{ id: 's', kind: 'model', name: 'Boathouse', revisions } as unknown as SourceDto]; // biome-ignore format: one source
const bring = (...names: string[]) =>
  userEvent.upload(screen.getByTestId('file-input'), names.map((name) => new File(['ISO-10303-21;'], name))); // biome-ignore format: one call
const progress = () => screen.getAllByRole('status').map((s) => s.textContent);

describe('bringing models', () => {
  it('shows how far each is, two of one name apart, and stops the one that is meant', async () => {
    open();
    await bring('a.ifc');
    await bring('a.ifc', 'b.ifc');
    expect(Upload.open.map((u) => u.name)).toEqual(['a.ifc', 'a.ifc', 'b.ifc']);
    act(() => Upload.open[1]!.upload.onprogress!({ lengthComputable: true, loaded: 30, total: 100 }));
    expect(progress()).toEqual(['a.ifcSending, 0 %Stop', 'a.ifcSending, 30 %Stop', 'b.ifcSending, 0 %Stop']);
    await userEvent.click(screen.getAllByRole('button', { name: 'Stop' })[1]!);
    await waitFor(() => expect(progress()[1]).toContain('The upload was stopped.'));
    expect(progress()[0]).toContain('Sending, 0 %');
    act(() => Upload.open[0]!.onload());
    await waitFor(() => expect(progress()).toHaveLength(2));
  }, 20_000);
  it('keeps what failed with the reason until it is closed or brought again', async () => {
    open();
    await bring('a.ifc');
    Object.assign(Upload.open[0]!, { status: 413, response: { code: 'upload-refused', detail: 'The file is larger than may be brought.', remedy: 'Choose one file.' } }); // biome-ignore format: one answer
    act(() => Upload.open[0]!.onload());
    await waitFor(() =>
      expect(progress()).toEqual(['a.ifcThe file is larger than may be brought. Choose one file.Close']),
    );
    await bring('a.ifc');
    expect(progress()).toEqual(['a.ifcSending, 0 %Stop']);
  }, 20_000);
});

describe('imports', () => {
  it('that failed say why, are begun again, or put away for good', async () => {
    const user = userEvent.setup();
    const { posted } = open({
      jobs: [job(1), job(2, { state: 'running', stage: 'Measuring', share: 0.4, problem: null })],
    });
    expect(progress()).toEqual([
      'part-1.ifcPart 1 is no model. Choose another file.Start againPut away',
      'part-2.ifcMeasuring, 40 %Stop',
    ]);
    await user.click(screen.getByRole('button', { name: 'Start again' }));
    await user.click(screen.getByRole('button', { name: 'Stop' }));
    await waitFor(() => expect(posted().map((p) => p.what)).toEqual(['POST /jobs/j1/start', 'POST /jobs/j2/stop']));
    await user.click(screen.getByRole('button', { name: 'Put away' }));
    expect(progress()).toHaveLength(1);
  }, 20_000);
  it('are never cut off without a word', () => {
    open({ jobs: Array.from({ length: 15 }, (_, i) => job(i + 101)) });
    expect(progress()).toHaveLength(12);
    expect(screen.getByText('and 3 more imports that wait, run or failed')).toBeTruthy();
  });
});

describe('revisions of a model', () => {
  it('that wait say why, and are let count or rejected', async () => {
    const user = userEvent.setup();
    const { posted } = open({ sources: source(revision(2, 'waiting', { matched: 4 }), revision(1, 'counting')) });
    expect(screen.getByText(/Only 4 of its 100 elements are known from the revision before\./)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Let it count' }));
    await user.click(screen.getByRole('button', { name: 'Reject' }));
    await waitFor(() =>
      expect(posted().map((p) => p.what)).toEqual(['POST /revisions/r2/count', 'POST /revisions/r2/reject']),
    );
    expect(screen.getByRole('link', { name: 'What it would move' }).getAttribute('href')).toContain('to=revision:r2');
  }, 20_000);
  it('older than the one that counts say so, and a picture that failed is drawn again', async () => {
    const user = userEvent.setup();
    const { posted } = open({
      sources: source(
        revision(2, 'waiting', { fileTime: '2026-03-01T08:00:00.000Z', geometryState: 'failed' }),
        revision(1, 'counting', { fileTime: '2026-04-01T08:00:00.000Z' }),
      ),
    });
    expect(screen.getByText(/It was written .*, before the one that counts\./)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Draw it again' }));
    await waitFor(() => expect(posted().at(-1)?.what).toBe('POST /revisions/r2/draw'));
  }, 20_000);
  it('that the server will not let count say why', async () => {
    open({ sources: source(revision(2, 'kept'), revision(1, 'counting')) }, { 'POST /revisions': () => refuse('The disk is full.') }); // biome-ignore format: one call
    await userEvent.click(screen.getByRole('button', { name: 'Let it count' }));
    expect(await screen.findByText(/The disk is full\./)).toBeTruthy();
  }, 20_000);
  it('show their findings in words, those of one cause as one', async () => {
    const finding = (id: string) => ({ code: 'no-storey', severity: 'warning', message: `Wall ${id} has no storey.`, globalIds: [id], keys: [] }); // biome-ignore format: one finding
    const { container } = open(
      { sources: source(revision(1, 'counting', { findingLines: 1 })) },
      { 'GET /revisions/r1/findings': () => ({ body: [finding('a'), finding('b')] }) },
    );
    await waitFor(() => expect(container.querySelectorAll('li').length).toBeGreaterThan(0));
    expect(within(container.querySelector('ul')!).getByText(/Wall a has no storey/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: '1 finding' }));
    expect(container.querySelector('li')).toBeNull();
  }, 20_000);
});

describe('a project without rules', () => {
  it('says what is not priced, and takes a starter', async () => {
    const first = sampleState();
    const { posted } = renderInProject(<SourcesPage />, { 'POST /template': () => ({ body: {} }), 'GET /drop-folder': () => ({ body: DROP }) }, { ...first, basis: { ...first.basis, rules: [] } }); // biome-ignore format: one call
    expect(screen.getByText(/This project has no rules yet: 3 elements are not priced\./)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Apply the rough starter' }));
    await waitFor(() => expect(posted()).toEqual([{ what: 'POST /template', body: { starter: true } }]));
  }, 20_000);
});
