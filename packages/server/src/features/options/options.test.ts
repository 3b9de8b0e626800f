import { readdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ChangeDto, ComparisonDto, EntryDiff, OptionConflict } from '@tally/core';
import { REVISIONS, writeBoathouse, writeLodgeModel } from '@tally/demo';
import { TestServer } from '../../testing/run-server.ts';

const server = new TestServer();
const { call, state } = server;
let id = '';

async function commit(workspace: string, cause: string, diff: Partial<EntryDiff>) {
  const { project } = await state(workspace);
  return call<ChangeDto>(`/projects/${workspace}/changes`, { base: project.seq, cause, diff: { added: [], updated: [], removed: [], ...diff } }); // biome-ignore format: one call
}
const total = async (workspace: string) => (await state(workspace)).summary.total;
const compare = async (workspace: string, from: string, to: string, by = 'section') =>
  call<ComparisonDto>(`/projects/${workspace}/compare?from=${encodeURIComponent(from)}&to=${encodeURIComponent(to)}&by=${by}`); // biome-ignore format: one call
const door = (rate: string) => ({ code: 'DOOR', description: 'Door', kind: 'material', unit: 'each', rate });
const dearer = (from: string, to: string) => ({
  updated: [{ kind: 'item', id: 'DOOR', from: door(from), to: door(to) }],
});

/** A lodge with its doors at 400.00 each, and nothing else. */
async function makeLodge(name: string): Promise<string> {
  const made = (await call<{ id: string }>('/projects', { name, currency: 'EUR' })).body.id;
  await server.send(`/projects/${made}/uploads`, 'lodge.ifc', writeLodgeModel());
  for (let n = 0; n < 600 && (await state(made)).summary.counts.unpriced < 5; n++)
    await new Promise((done) => setTimeout(done, 100));
  const rule = { id: 'doors', name: 'Doors', scope: { field: 'class', op: 'is', value: 'IfcDoor' }, section: 'fit', item: 'DOOR', driver: 'Count' }; // biome-ignore format: one rule
  await commit(made, 'Priced', {
    added: [
      { kind: 'section', id: 'fit', body: { id: 'fit', name: 'Fit-out' } },
      { kind: 'item', id: 'DOOR', body: door('400') },
      { kind: 'rule', id: 'doors', body: rule },
    ],
  });
  return made;
}

let doors = 0;
beforeAll(async () => {
  await server.start();
  id = await makeLodge('Lodge');
  doors = (await total(id)) / 40_000;
  expect(doors).toBeGreaterThan(1);
}, 120_000);
afterAll(() => server.stop());

describe('a frozen plan', () => {
  it('is compared with the plan of now, also when its item was taken away since; its file stays', async () => {
    const other = await makeLodge('Frozen');
    const frozen = await call<ChangeDto>(`/projects/${other}/baselines`, { name: 'Cost plan 1', isContract: true });
    expect([frozen.status, frozen.body.cause, frozen.body.move!.move]).toEqual([200, 'Plan frozen: Cost plan 1', 0]);
    const [baseline, body] = Object.entries((await state(other)).baselines)[0]!;
    expect([body.total, body.isContract]).toEqual([doors * 40_000, true]);
    await commit(other, 'Dearer', dearer('400', '450'));
    const first = (await compare(other, `baseline:${baseline}`, 'live')).body;
    expect(first.move).toMatchObject({ before: doors * 40_000, after: doors * 45_000, causes: { price: doors * 5000, mapping: 0 } }); // biome-ignore format: one move
    expect(first.drift).toEqual([null, null]);
    const { basis } = await state(other);
    const rule = basis.rules.find((r) => r.id === 'doors')!;
    await commit(other, 'Gone', { removed: [{ kind: 'item', id: 'DOOR', body: door('450') }, { kind: 'rule', id: 'doors', body: rule }] }); // biome-ignore format: one change
    const second = (await compare(other, `baseline:${baseline}`, 'live')).body;
    // What nobody prices any more is a matter of mapping alone.
    expect(second.move).toMatchObject({ move: -doors * 40_000, causes: { mapping: -doors * 40_000, price: 0 } });
    const back = (await compare(other, 'live', `baseline:${baseline}`)).body;
    expect(back.move.causes).toEqual(Object.fromEntries(Object.entries(second.move.causes).map(([c, m]) => [c, -m + 0]))); // biome-ignore format: one move
    const names = readdirSync(join(server.data, 'files/baselines'));
    await commit(other, 'Away', { removed: [{ kind: 'baseline', id: baseline, body }] });
    expect((await compare(other, `baseline:${baseline}`, 'live')).status).toBe(404);
    await call(`/projects/${other}/undo`, {});
    expect((await compare(other, `baseline:${baseline}`, 'live')).body.move).toEqual(second.move);
    expect(readdirSync(join(server.data, 'files/baselines'))).toEqual(names);
    // A name that is taken, and no name.
    expect((await call(`/projects/${other}/baselines`, { name: 'cost plan 1' })).status).toBe(422);
    expect((await call(`/projects/${other}/baselines`, { name: ' ' })).status).toBe(400);
  }, 60_000);
  it('whose file is damaged is said to be so, by name', async () => {
    await call(`/projects/${id}/baselines`, { name: 'Damaged' });
    const entry = Object.entries((await state(id)).baselines).find(([, b]) => b.name === 'Damaged')!;
    const path = join(server.data, 'files/baselines', `${entry[1].file}.gz`);
    renameSync(path, `${path}.kept`);
    writeFileSync(path, 'nothing');
    expect(await compare(id, `baseline:${entry[0]}`, 'live')).toMatchObject({ status: 410, body: { code: 'baseline-damaged', detail: expect.stringContaining('Damaged') } }); // biome-ignore format: one answer
    renameSync(`${path}.kept`, path);
    expect((await compare(id, `baseline:${entry[0]}`, 'live')).status).toBe(200);
  });
});

describe('the plan after a past change', () => {
  it('is compared with any other, and with nothing at the beginning', async () => {
    const { project } = await state(id);
    const before = (await compare(id, 'seq:0', 'live')).body;
    expect(before.move).toMatchObject({ before: 0, after: doors * 40_000, causes: { extent: doors * 40_000 } });
    expect((await compare(id, `seq:${project.seq}`, 'live')).body.move.move).toBe(0);
    expect((await compare(id, 'seq:99999', 'live')).status).toBe(404);
    expect((await compare(id, 'yesterday', 'live')).status).toBe(400);
    expect((await compare(id, 'live', 'live', 'colour')).status).toBe(400);
  });
});

describe('the plan as it was', () => {
  it('is opened to be looked at, and nothing can be changed in it', async () => {
    const other = await makeLodge('As it was');
    const { project } = await state(other);
    await commit(other, 'Dearer', dearer('400', '450'));
    const past = `${other}@${project.seq}`;
    expect([await total(past), await total(other)]).toEqual([doors * 40_000, doors * 45_000]);
    const seen = await state(past);
    expect([seen.project.seq, seen.basis.items.find((i) => i.code === 'DOOR')!.rate]).toEqual([project.seq, '400']);
    expect((await call<{ label: string; minor: number }>(`/projects/${past}/plan`)).body.minor).toBe(doors * 40_000);
    expect((await call<ChangeDto[]>(`/projects/${past}/changes`)).body.map((c) => c.cause)).not.toContain('Dearer');
    expect(await commit(past, 'Again', dearer('400', '500'))).toMatchObject({ status: 409, body: { code: 'past-state' } }); // biome-ignore format: one answer
    expect((await call(`/projects/${past}/undo`, {})).status).toBe(409);
    expect((await compare(past, 'live', 'base')).body.move).toMatchObject({ move: doors * 5000, causes: { price: doors * 5000 } }); // biome-ignore format: one move
    // Before anything there was nothing; after what has not been yet there is nothing to look at.
    expect(await total(`${other}@0`)).toBe(0);
    expect((await call(`/projects/${other}@999`)).status).toBe(404);
  });
});

describe('an option', () => {
  let option = '';
  let workspace = '';
  const make = async (name: string, of = id) =>
    (await call<{ id: string }>(`/projects/${of}/options`, { name })).body.id;

  it('is worked in as if it was the project, which stays as it is', async () => {
    option = await make('Steel doors');
    workspace = `${id}~${option}`;
    expect(await total(workspace)).toBe(doors * 40_000);
    const changed = await commit(workspace, 'Steel', dearer('400', '650'));
    expect(changed.body).toMatchObject({ projectId: workspace, option, move: { move: doors * 25_000, causes: { price: doors * 25_000 } } }); // biome-ignore format: one change
    expect([await total(workspace), await total(id)]).toEqual([doors * 65_000, doors * 40_000]);
    // The list of the plan does not tell of it, that of the option does.
    const causes = async (of: string) => (await call<ChangeDto[]>(`/projects/${of}/changes`)).body.map((c) => c.cause);
    expect((await causes(id)).includes('Steel')).toBe(false);
    expect((await causes(workspace))[0]).toBe('Steel');
    const beside = (await compare(id, 'live', `option:${option}`)).body;
    expect(beside.move).toMatchObject({ move: doors * 25_000, causes: { price: doors * 25_000 } });
    expect(beside.groups[0]).toMatchObject({ label: 'Fit-out', from: doors * 40_000, to: doors * 65_000 });
    expect((await compare(workspace, 'base', 'live')).body.move).toEqual(beside.move);
    expect((await state(id)).options[option]!.differences).toHaveLength(1);
    // What does not fit it is refused.
    expect((await commit(workspace, 'Twice', dearer('400', '700'))).status).toBe(409);
  });
  it('takes its own changes back, and nobody else’s', async () => {
    await commit(workspace, 'Another', dearer('650', '700'));
    const undone = await call<ChangeDto>(`/projects/${workspace}/undo`, {});
    expect([undone.body.cause, await total(workspace)]).toEqual(['Undone: Another', doors * 65_000]);
    const redone = await call<ChangeDto>(`/projects/${workspace}/redo`, {});
    expect([redone.body.cause, await total(workspace)]).toEqual(['Redone: Another', doors * 70_000]);
    await call(`/projects/${workspace}/undo`, {});
    expect(await total(id)).toBe(doors * 40_000);
  });
  it('follows the plan where it has nothing of its own, names conflicts, and is merged in one step when they are settled', async () => {
    await commit(id, 'Quote', dearer('400', '420'));
    const { body: conflicts } = await call<OptionConflict[]>(`/projects/${id}/options/${option}/conflicts`);
    expect(conflicts.map((c) => [c.difference.kind, c.difference.id])).toEqual([['item', 'DOOR']]);
    expect(await call(`/projects/${id}/options/${option}/merge`, {})).toMatchObject({ status: 409, body: { code: 'option-conflict', detail: expect.stringContaining('item DOOR') } }); // biome-ignore format: one answer
    const settled = await call(`/projects/${id}/options/${option}/rebase`, { keepsOwn: { 'item/DOOR': true } });
    expect(settled).toMatchObject({ status: 200 });
    const merged = await call<ChangeDto>(`/projects/${id}/options/${option}/merge`, {});
    expect(merged).toMatchObject({ status: 200 });
    expect(merged.body.move).toMatchObject({ move: doors * 23_000, causes: { price: doors * 23_000 } });
    expect([await total(id), Object.keys((await state(id)).options)]).toEqual([doors * 65_000, []]);
    expect((await call(`/projects/${workspace}`)).status).toBe(404);
    await call(`/projects/${id}/undo`, {});
    expect([await total(id), await total(workspace)]).toEqual([doors * 42_000, doors * 65_000]);
  });
  it('of an option begins with what that has', async () => {
    const inner = await make('Steel doors, cheaper', workspace);
    expect(await total(`${id}~${inner}`)).toBe(doors * 65_000);
    await commit(`${id}~${inner}`, 'Cheaper', dearer('650', '600'));
    expect([await total(workspace), await total(`${id}~${inner}`)]).toEqual([doors * 65_000, doors * 60_000]);
    expect((await call(`/projects/${id}/options`, { name: 'steel doors' })).status).toBe(422);
    await call(`/projects/${id}/options/${inner}/remove`, {});
    expect((await call(`/projects/${id}~${inner}`)).status).toBe(404);
    expect((await call(`/projects/${id}~nothing`)).status).toBe(404);
  });
  it('can have another revision of a source, which the plan does not count', async () => {
    const own = await server.makeProject(true);
    const R1 = writeBoathouse(REVISIONS.R1);
    await server.send(`/projects/${own}/uploads`, 'wharf.ifc', R1);
    const until = async (of: string, is: (t: number) => boolean) => {
      for (let n = 0; n < 600 && !is(await total(of)); n++) await new Promise((done) => setTimeout(done, 100));
    };
    await until(own, (t) => t > 0);
    const before = await total(own);
    const longer = await make('Longer', own);
    const source = (await state(own)).sources[0]!.id;
    await server.send(`/projects/${own}~${longer}/uploads`, 'wharf-R2.ifc', writeBoathouse(REVISIONS.R2), { sourceId: source }); // biome-ignore format: one call
    await until(`${own}~${longer}`, (t) => t > before);
    expect([await total(own), await total(`${own}~${longer}`)]).toEqual([56_014_912, 63_374_117]);
    const { body } = await compare(own, 'live', `option:${longer}`);
    expect([body.move.move, body.counts.came, body.counts.identified]).toEqual([7_359_205, 52, 3]);
  }, 60_000);
});

describe('the design desk', () => {
  it('of an option has the design that was issued in it; that of the project stays, and files are numbered through', async () => {
    const { id: project } = (await call<{ id: string }>('/projects', { name: 'Designed', currency: 'EUR' })).body;
    const { id: option } = (await call<{ id: string }>(`/projects/${project}/options`, { name: 'Taller' })).body;
    const desk = async (workspace: string) =>
      (await call<{ issued: number; parameters: { storeyHeight: number; bays: number } }>(`/projects/${workspace}/desk`)).body; // biome-ignore format: one call
    const taller = { ...REVISIONS.R1, storeyHeight: 3900 };
    const issue = async (workspace: string, parameters: object) =>
      (await call<{ fileName: string }>(`/projects/${workspace}/desk?now=1`, parameters)).body.fileName;
    expect(await issue(`${project}~${option}`, taller)).toBe('heron-wharf-R2.ifc');
    expect(await desk(project)).toMatchObject({ issued: 2, parameters: REVISIONS.R1 });
    expect(await issue(project, REVISIONS.R2)).toBe('heron-wharf-R3.ifc');
    expect(await desk(`${project}~${option}`)).toMatchObject({ issued: 3, parameters: taller });
    expect(await desk(project)).toMatchObject({ issued: 3, parameters: REVISIONS.R2 });
  });
});
