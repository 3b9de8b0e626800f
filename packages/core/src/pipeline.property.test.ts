import fc from 'fast-check';
import type { ElementTable } from './elements/element-table.ts';
import { ENGINE_VERSION, runPipeline } from './pipeline.ts';
import { PipelineMemory } from './pipeline-memory.ts';
import { decodePlan, encodePlan, toStoredPlan } from './plan/plan-file.ts';
import { anyChange, BASIS, FIRST_STATE, tableOf } from './testing/random-project.ts';

const bytesOf = (plan: ReturnType<typeof runPipeline>) => Buffer.from(encodePlan(toStoredPlan(plan, ENGINE_VERSION)));

describe('a plan worked out step by step', () => {
  it('is byte for byte the plan from scratch, over 1,000 random changes', () => {
    const memory = new PipelineMemory();
    const plains = new Map<string, ElementTable>();
    let state = FIRST_STATE;
    fc.sample(anyChange, { seed: 12, numRuns: 1000 }).forEach((change, n) => {
      state = change(state);
      // Elements come and go with revisions; a revision is one table.
      const revision = JSON.stringify([...state.gone].sort());
      const plain = plains.get(revision) ?? tableOf({ ...FIRST_STATE, gone: state.gone });
      plains.set(revision, plain);
      const step = runPipeline(state.basis, [{ sourceId: 's', table: tableOf(state, plain) }], memory);
      // Nothing of it shares anything with the other: not even a column.
      const scratch = runPipeline(structuredClone(state.basis), [{ sourceId: 's', table: tableOf(state) }]);
      if (!bytesOf(step).equals(bytesOf(scratch))) {
        expect({ n, ...toStoredPlan(step, '') }).toEqual({ n, ...toStoredPlan(scratch, '') });
        throw new Error(`The bytes differ after change ${n}.`);
      }
    });
    expect(memory.evaluatedCells).toBeGreaterThan(1000);
  }, 60_000);
  it('tries a thing out without leaving a trace', () => {
    const memory = new PipelineMemory();
    const sources = [{ sourceId: 's', table: tableOf(FIRST_STATE) }];
    const before = bytesOf(runPipeline(BASIS, sources, memory));
    const cells = memory.evaluatedCells;
    const dearer = { ...BASIS, rules: BASIS.rules.map((r) => ({ ...r, isOff: r.id === 'walls' })) };
    const tried = memory.fork();
    expect(runPipeline(dearer, sources, tried).total).not.toBe(runPipeline(BASIS, sources).total);
    expect(bytesOf(runPipeline(BASIS, sources, memory))).toEqual(before);
    expect(memory.evaluatedCells).toBe(cells);
  });
});

describe('a stored plan', () => {
  it('is read back as it was written', () => {
    const stored = toStoredPlan(runPipeline(BASIS, [{ sourceId: 's', table: tableOf(FIRST_STATE) }]), ENGINE_VERSION);
    const read = decodePlan(encodePlan(stored));
    expect(read.ok && read.value).toEqual(stored);
    expect(stored.cells.keys.length).toBeGreaterThan(40);
    expect(decodePlan(new Uint8Array([84, 80, 76, 9, 0, 0, 0, 0]))).toMatchObject({
      ok: false,
      problem: { code: 'table-format' },
    });
  });
});
