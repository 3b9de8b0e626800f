import type { BehindDto, CheckedDto, EntryDiff, ItemCut, PlanDto, PlanView } from '@tally/core';
import { writeLodgeModel } from '@tally/demo';
import { TestServer } from '../../testing/run-server.ts';

const server = new TestServer();
let id = '';

async function commit(cause: string, diff: Partial<EntryDiff>) {
  const { project } = await server.state(id);
  return server.call<{ message?: string; detail?: string }>(`/projects/${id}/changes`, { base: project.seq, cause, diff: { added: [], updated: [], removed: [], ...diff } }); // biome-ignore format: one call
}
const look = (view: PlanView) =>
  server.call<PlanDto>(`/projects/${id}/plan?view=${encodeURIComponent(JSON.stringify(view))}`);

/** Doors at 400.00 each and wall studs that are cut by a list; walls are counted, so that the figures are plain. */
beforeAll(async () => {
  await server.start();
  id = (await server.call<{ id: string }>('/projects', { name: 'Lodge', currency: 'EUR' })).body.id;
  await server.send(`/projects/${id}/uploads`, 'lodge.ifc', writeLodgeModel());
  for (let n = 0; n < 600; n++) {
    const { counts } = (await server.state(id)).summary;
    if (counts.unpriced + counts.priced > 10) break;
    await new Promise((done) => setTimeout(done, 100));
  }
  const rule = (name: string, ifcClass: string, item: string, driver: string) => ({ kind: 'rule', id: name, body: { id: name, name, scope: { field: 'class', op: 'is', value: ifcClass }, section: 'fit', item, driver } }); // biome-ignore format: one rule
  const { status } = await commit('Priced', {
    added: [
      { kind: 'section', id: 'fit', body: { id: 'fit', name: 'Fit-out' } },
      { kind: 'item', id: 'DOOR', body: { code: 'DOOR', description: 'Door', kind: 'material', unit: 'each', rate: '400' } },
      { kind: 'item', id: 'STUD', body: { code: 'STUD', description: 'Stud', kind: 'material', unit: 'm', rate: '2', soldAs: { lengths: [6], cut: {} } } },
      rule('doors', 'IfcDoor', 'DOOR', 'Count'),
      rule('walls', 'IfcWall', 'STUD', 'Count * 2.5 m/1 each'),
    ],
  }); // biome-ignore format: an entry a line
  expect(status).toBe(200);
}, 120_000);
afterAll(() => server.stop());

describe('a plan that is looked at', () => {
  it('is grouped, limited and opened to its elements; the total stays', async () => {
    const whole = (await look({ by: [] })).body;
    for (const by of [['storey'], ['room', 'class'], ['source'], ['item']]) expect((await look({ by })).body.minor).toBe(whole.minor); // biome-ignore format: short
    const doors = (await look({ by: [], scope: { field: 'class', op: 'is', value: 'IfcDoor' } })).body;
    expect(doors.label).toBe('Total of what is shown');
    const [line] = doors.lines;
    expect(doors.minor).toBe(line!.elements * 40_000);
    const view = encodeURIComponent(JSON.stringify({ by: [] }));
    const { body } = await server.call<BehindDto>(
      `/projects/${id}/plan/behind?view=${view}&id=${encodeURIComponent(line!.id)}`,
    );
    expect(body.elements.map((e) => e.amount)).toEqual(new Array(line!.elements).fill(400e6));
  });
  it('can be limited to a scope by its name, and to sources', async () => {
    const scope = { field: 'class', op: 'is', value: 'IfcDoor' } as const;
    await commit('Scope', { added: [{ kind: 'scope', id: 'doors', body: { id: 'doors', name: 'Doors', scope } }] });
    const byName = (await look({ by: [], scope: { named: 'doors' } })).body;
    expect(byName.minor).toBe((await look({ by: [], scope })).body.minor);
    expect(byName.minor).toBeGreaterThan(0);
    expect((await look({ by: [], sources: ['allowances'] })).body.minor).toBe(0);
  });
  it('by a field there is none of, or nine levels deep, is refused with the reason', async () => {
    const refused = await look({ by: ['colour'] });
    expect([refused.status, JSON.stringify(refused.body)]).toEqual([
      400,
      expect.stringContaining('cannot be grouped by'),
    ]);
    expect((await look({ by: new Array(9).fill('storey') })).status).toBe(400);
    expect((await server.call(`/projects/${id}/plan?view=%7B`)).status).toBe(400);
  });
});

it('marks hold until what they are on moves, survive a restart of the plan, and have the id of what they are on', async () => {
  const things = [{ path: [], section: 'fit', item: 'DOOR' }];
  const [signed] = (await server.call<{ signature: string; amount: number }[]>(`/projects/${id}/plan/sign`, { things }))
    .body;
  const body = { on: things[0]!, signature: signed!.signature, amount: 1 };
  expect((await commit('x', { added: [{ kind: 'checked', id: 'other', body }] })).status).toBe(400);
  expect((await commit('Checked', { added: [{ kind: 'checked', id: '#fit|DOOR', body }] })).status).toBe(200);
  const marks = async () => (await server.call<CheckedDto>(`/projects/${id}/checked`)).body.marks.map((m) => m.holds);
  expect(await marks()).toEqual([true]);
  const item = { code: 'DOOR', description: 'Door', kind: 'material', unit: 'each', rate: '400' };
  await commit('Dearer', { updated: [{ kind: 'item', id: 'DOOR', from: item, to: { ...item, rate: '410' } }] });
  expect(await marks()).toEqual([false]);
  await commit('As before', { updated: [{ kind: 'item', id: 'DOOR', from: { ...item, rate: '410' }, to: item }] });
  expect(await marks()).toEqual([true]);
});

it('targets are held with the summary; 0 and a wrong id are refused', async () => {
  expect((await commit('x', { added: [{ kind: 'target', id: 'whole', body: { amount: '0' } }] })).status).toBe(400);
  expect((await commit('x', { added: [{ kind: 'target', id: 'all', body: { amount: '10' } }] })).status).toBe(400);
  expect((await commit('Target', { added: [{ kind: 'target', id: 'whole', body: { amount: '1000000' } }] })).status).toBe(200); // biome-ignore format: short
  const { summary } = await server.state(id);
  const held = { id: 'whole', aim: 100_000_000, left: 100_000_000 - summary.total };
  expect(summary.target).toMatchObject(held);
  expect((await server.call(`/projects/${id}/targets`)).body).toMatchObject([held]);
});

it('lengths are cut by a list: bars with what each piece is for; what is not sold in lengths says so', async () => {
  const { lists } = (await server.call<{ lists: ItemCut[] }>(`/projects/${id}/cutting/STUD`)).body;
  const pieces = lists[0]!.bars.flatMap((b) => b.pieces);
  // Two pieces of 2.5 m from a bar of 6 m.
  expect(lists[0]!.bars).toHaveLength(Math.ceil(pieces.length / 2));
  expect(pieces.every((p) => p.lengthM === 2.5 && p.from.startsWith('Wall'))).toBe(true);
  expect((await server.call(`/projects/${id}/cutting/DOOR`)).status).toBe(422);
  expect((await server.call(`/projects/${id}/cutting/NONE`)).status).toBe(404);
});
