import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { readWorkspaceId } from '@tally/core';
import compression from 'compression';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import type { ServerConfig } from './config.ts';
import type { DbClient } from './db/db-client.ts';
import { EnginePool } from './engine/engine-pool.ts';
import { baselineRoutes } from './features/baselines/baseline-routes.ts';
import { BaselineService } from './features/baselines/baseline-service.ts';
import { bookRoutes, projectBookRoutes } from './features/books/book-routes.ts';
import { BookService } from './features/books/book-service.ts';
import { BookShelf } from './features/books/book-shelf.ts';
import { ChangeService } from './features/changes/change-service.ts';
import { CompareService } from './features/changes/compare-service.ts';
import { deskRoutes } from './features/desk/desk-routes.ts';
import { DEMO, loadDemo } from './features/desk/load-demo.ts';
import { EventHub, toChangeEvent } from './features/events/event-hub.ts';
import { optionRoutes } from './features/options/option-routes.ts';
import { OptionService } from './features/options/option-service.ts';
import { planRoutes } from './features/plan/plan-routes.ts';
import { priceRoutes } from './features/prices/price-routes.ts';
import { PriceService } from './features/prices/price-service.ts';
import { ProjectReader } from './features/projects/project-reader.ts';
import { type ProjectServices, projectRoutes } from './features/projects/project-routes.ts';
import { ProjectService, type ShippedTemplate } from './features/projects/project-service.ts';
import { SerialQueue } from './features/projects/serial-queue.ts';
import { ImportService } from './features/sources/import-service.ts';
import { ImportSteps } from './features/sources/import-steps.ts';
import { ListService } from './features/sources/list-service.ts';
import { RevisionService } from './features/sources/revision-service.ts';
import { sourceRoutes } from './features/sources/source-routes.ts';
import { HttpProblem, handleProblems, notFound, route } from './http/http-problem.ts';
import { localOnly, refuseBrokenAddress } from './http/local-only.ts';
import { DropWatcher } from './importers/drop-watcher.ts';
import { FileStore } from './importers/file-store.ts';
import { PriceFolder } from './importers/price-folder.ts';
import { ReaderKeep } from './importers/reader-keep.ts';

export interface App {
  readonly express: Express;
  /** Begins watching and goes on with what a stop cut off. */
  readonly start: () => Promise<void>;
  readonly close: () => Promise<void>;
}

/** No text has U+0000 or half a sign, and the database takes none that has. */
function refuseNul(_req: unknown, _res: unknown, body: Buffer): void {
  if (body.includes(String.raw`\u0000`)) throw new Error('U+0000');
  // Halves of signs can only come as escapes: most bodies have none, and are not looked through.
  if (/\\u[dD][89a-fA-F]/.test(body.toString('latin1')))
    JSON.parse(body.toString(), (_key, value: unknown) => {
      if (typeof value === 'string' && !value.isWellFormed()) throw new Error('half a sign');
      return value;
    });
}

/** Wires the server together: the only place where its parts meet. */
export function createApp(config: ServerConfig, db: DbClient, logger: Logger): App {
  const log = (error: unknown) => logger.error(error);
  const store = new FileStore(join(config.dataFolder, 'files'));
  const events = new EventHub();
  const queue = new SerialQueue();
  const engines: EnginePool = new EnginePool((projectId, engine) => changes.loadEngine(projectId, engine));
  const shelf = new BookShelf(db);
  const changes = new ChangeService(db, engines, events, queue, shelf, store, log);
  const books = new BookService(db, shelf, changes);
  const prices = new PriceService(db, store, shelf, books, changes);
  const revisions = new RevisionService(db, changes, events);
  const readers = new ReaderKeep();
  const steps = new ImportSteps(db, store, changes, revisions, readers);
  const imports = new ImportService(db, store, revisions, steps, events, log);
  const lists = new ListService(db, store, shelf, changes, steps, imports);
  changes.onDamagedTable = (revision) => imports.makeTableAgain(revision);
  const watcher = new DropWatcher({
    folder: join(config.dataFolder, 'drop'),
    uploadPath: () => store.uploadPath(),
    log,
    isProject: async (projectId) => (await db.projects.find(projectId))?.putAwayAt === null,
    bringFile: async (projectId, fileName, copy) => {
      const fileHash = await store.keepOriginal(copy);
      if ((await db.jobs.listByFile(projectId, fileHash)).length > 0) return;
      await imports.enqueue({ projectId, fileName, fileHash, author: 'Drop folder', sourceId: null });
    },
  });
  const shipped = (name: ShippedTemplate) =>
    JSON.parse(readFileSync(join(config.repositoryRoot, `demo/${name}.json`), 'utf8')) as unknown;
  const projects = new ProjectService(db, store, changes, shelf, events, shipped);
  projects.onUndrawn = (revision, author) => imports.drawAgain(revision, author);
  const reader = new ProjectReader(db, shelf, books, changes, revisions, imports);
  const services: ProjectServices = { db, projects, changes, reader, engines };

  const priceFolder = new PriceFolder(join(config.dataFolder, 'prices'));

  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'worker-src': ["'self'", 'blob:'],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(localOnly);
  app.use(refuseBrokenAddress);
  app.get(
    '/api/events',
    route(async (req, res) => {
      const after = Number(req.headers['last-event-id'] ?? req.query.after ?? Number.NaN);
      const { projects: named } = req.query;
      const isResumed = Number.isSafeInteger(after) && after >= 0;
      await events.open(res, typeof named === 'string' ? new Set(named.split(',')) : null, async () => {
        // The place first: what comes after it is told by the stream.
        const last = await db.changes.findLastId();
        if (!isResumed) return { from: last, events: [] };
        const missed = await changes.listAfter(after);
        return missed ? { from: after, events: missed.map(toChangeEvent) } : { from: last, events: null };
      });
    }),
  );
  app.use(compression());
  const readJson = express.json({ limit: '8mb', verify: refuseNul });
  // What brings many entries at once: a change, its preview, a template.
  const readLarge = express.json({ limit: '160mb', verify: refuseNul });
  const isLarge = (path: string) =>
    path === '/api/projects' ||
    /^\/api\/projects\/[^/]+\/(?:changes|preview|template(?:\/check)?|attributes)$/.test(path);
  // A takeoff table may be larger; its route reads it.
  app.use((req, res, next) => {
    if (req.path.endsWith('/takeoff.xlsx')) next();
    else (isLarge(req.path) ? readLarge : readJson)(req, res, next);
  });
  app.get('/api/health', (_req, res) => void res.json({ isReady: true }));
  // The plan as it was is looked at; what asks by a long body changes nothing.
  app.use('/api/projects/:projectId', (req, _res, next) => {
    const isAsked = req.method === 'GET' || /\/(sign|amount|takeoff\.xlsx|preview)$/.test(req.path);
    if (isAsked || readWorkspaceId(String(req.params.projectId)).past === null) return next();
    next(
      new HttpProblem(409, {
        code: 'past-state',
        message: 'This is the plan as it was: nothing can be changed in it.',
        remedy: 'Go back to the plan, and change it there.',
      }),
    );
  });
  app.use(
    '/api/projects/:projectId',
    planRoutes(engines, db, new CompareService(db, engines, shelf, store)),
    sourceRoutes(db, store, { imports, revisions, lists, watcher }),
    priceRoutes(prices, store, priceFolder),
    baselineRoutes(new BaselineService(db, engines, changes, store)),
    projectBookRoutes(books),
    deskRoutes(db, watcher, join(config.dataFolder, 'desk'), async (projectId, fileName, content) => {
      const path = store.uploadPath();
      writeFileSync(path, content);
      const fileHash = await store.keepOriginal(path);
      const source = (await db.sources.list(projectId)).find((s) => s.name === 'heron-wharf')?.id ?? null;
      await imports.enqueue({ projectId, fileName, fileHash, author: 'Design desk', sourceId: source });
    }),
    optionRoutes(new OptionService(db, changes)),
  );
  app.use('/api/books', bookRoutes(db));
  app.use('/api/projects', projectRoutes(services));
  app.use('/api', (_req, _res, next) => next(notFound('address')));
  if (config.webFolder && existsSync(config.webFolder)) {
    app.use(express.static(config.webFolder, { index: false, maxAge: '1h' }));
    app.get('/{*rest}', (_req, res) => res.sendFile(join(config.webFolder!, 'index.html')));
  }
  app.use(handleProblems(log));

  return {
    express: app,
    start: async () => {
      mkdirSync(config.dataFolder, { recursive: true });
      if (config.withDemo && (await db.projects.find(DEMO)) === null) {
        const folder = join(config.repositoryRoot, 'demo');
        await loadDemo({ projects, lists, store, folder, dropFolder: watcher.projectFolder(DEMO) });
      }
      // What a stop cut off is gone on with beside the work; no start depends on it.
      imports
        .resume()
        .then(() => changes.settleMoves())
        .catch(log);
      watcher.start();
      priceFolder.watch(() => events.publish({ kind: 'prices', projectId: null }));
    },
    close: async () => {
      watcher.stop();
      priceFolder.stop();
      events.close();
      await imports.close();
      await readers.close();
      await engines.close();
    },
  };
}
