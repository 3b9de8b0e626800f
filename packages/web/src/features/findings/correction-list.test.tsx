/** @jest-environment jsdom */
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleLayer } from '../../testing/sample-layer.ts';
import { sampleWalls } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { CorrectionList } from './correction-list.tsx';

/** Wall 2 stands in the loft, whatever the file says. */
const FACTS = { '12': { storey: 'Loft', by: 'Ada', at: '2026-05-01' } };

function open() {
  const saved: { name: string; blob: Blob }[] = [];
  URL.createObjectURL = (blob) => {
    saved.push({ name: '', blob: blob as Blob });
    return 'blob:x';
  };
  URL.revokeObjectURL = () => undefined;
  const drawn = renderInProject(
    <CorrectionList />,
    { 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }) },
    sampleState({ sources: [sampleSource], layer: sampleLayer({ facts: FACTS }) }),
  );
  serveTable(sampleWalls());
  return { ...drawn, saved };
}

describe('what was corrected here', () => {
  it('says what is right and what the file has', async () => {
    open();
    const line = await screen.findByRole('listitem');
    expect(line.textContent).toMatch(/^Wall 2: .*storey.*Loft, in the file Ground floor/i);
  }, 20_000);
  it('goes to the designers as a list with the mark of the element', async () => {
    const { saved } = open();
    await screen.findByRole('listitem');
    await userEvent.click(screen.getByRole('button', { name: 'Save as CSV' }));
    await waitFor(() => expect(saved).toHaveLength(1));
    const text = await new Promise<string>((done) => {
      const reader = new FileReader();
      reader.onload = () => done(String(reader.result));
      reader.readAsText(saved[0]!.blob);
    });
    const [head, row] = text
      .replace(/^\uFEFF/, '')
      .trim()
      .split(/\r?\n/);
    expect(head).toMatch(/^GlobalId,Class,Name,Fact,In the file,Right is,By,On$/);
    expect(row).toMatch(/^wall-1,IfcWall,Wall 2,.*,Ground floor,Loft,Ada,2026-05-01$/);
  }, 20_000);
  it('is withdrawn one by one, or all at once', async () => {
    const { posted } = open();
    const line = await screen.findByRole('listitem');
    await userEvent.click(within(line).getByRole('button', { name: 'Withdraw' }));
    await userEvent.click(screen.getByRole('button', { name: 'Withdraw all' }));
    await waitFor(() => expect(posted()).toHaveLength(2));
    for (const { body } of posted()) expect(body).toMatchObject({ diff: { removed: [{ kind: 'facts', id: '12' }] } });
  }, 20_000);
});
