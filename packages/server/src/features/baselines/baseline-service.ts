import { createHash, randomUUID } from 'node:crypto';
import { amountToMinor, type BaselineBody, type ChangeDto, ENGINE_VERSION, type Entry } from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import type { EnginePool } from '../../engine/engine-pool.ts';
import { HttpProblem } from '../../http/http-problem.ts';
import { writeWhole } from '../../importers/file-store.ts';
import type { FileStorePaths } from '../../importers/file-store-paths.ts';
import type { ChangeService } from '../changes/change-service.ts';
import { requireProject } from '../projects/require-project.ts';

/** What a plan is frozen as. */
export interface FreezeRequest {
  readonly name: string;
  readonly isContract?: boolean;
}

/** Freezes plans. The file is there whole before anything names it, and is never deleted. */
export class BaselineService {
  constructor(
    private readonly db: DbClient,
    private readonly engines: EnginePool,
    private readonly changes: ChangeService,
    private readonly store: FileStorePaths,
  ) {}

  /** Freezes the plan of now. Errors: 404, 409 where a change came between, 422 for a name that is taken. */
  async freeze(projectId: string, { name, isContract }: FreezeRequest, author: string): Promise<ChangeDto> {
    const { seq } = await requireProject(this.db, projectId);
    const others = (await this.db.projects.listEntries(projectId)).filter((e) => e.kind === 'baseline') as Entry<BaselineBody>[]; // biome-ignore format: one list
    if (others.some((e) => e.body.name.trim().toLowerCase() === name.trim().toLowerCase()))
      throw new HttpProblem(422, {
        code: 'baseline-named',
        message: `There is a baseline called ${name} already.`,
        remedy: 'Take another name.',
      });
    const frozen = await this.engines.withEngine(projectId, async (engine) => {
      const made = await engine.ask('freeze');
      return { ...made, seq: engine.seq };
    });
    if (frozen.seq !== seq)
      throw new HttpProblem(409, {
        code: 'change-conflict',
        message: 'The plan changed while it was frozen.',
        remedy: 'Freeze it again.',
      });
    const file = createHash('sha256').update(frozen.bytes).digest('hex');
    writeWhole(this.store.baselinePath(file), frozen.bytes);
    const body: BaselineBody = {
      name,
      file,
      seq,
      currency: frozen.currency,
      total: amountToMinor(frozen.total),
      engine: ENGINE_VERSION,
      ...(isContract ? { isContract } : {}),
      by: author,
      at: new Date().toISOString(),
    };
    const updated = isContract ? others.flatMap(({ kind, id, body: from }) => (from.isContract ? [{ kind, id, from, to: { ...from, isContract: false } }] : [])) : []; // biome-ignore format: one choice
    return this.changes.commit(projectId, {
      base: seq,
      author,
      cause: `Plan frozen: ${name}`,
      diff: { added: [{ kind: 'baseline', id: randomUUID(), body }], updated, removed: [] },
    });
  }
}
