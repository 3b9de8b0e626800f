import type { ChangeDto, Problem, ProblemDto } from '@tally/core';
import type { ErrorRequestHandler, Request, RequestHandler, Response } from 'express';
import { z } from 'zod';

/** An error that is answered as problem+json. */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
    readonly changes?: readonly ChangeDto[],
  ) {
    super(problem.message);
  }
}

export const notFound = (what: string) =>
  new HttpProblem(404, {
    code: 'not-found',
    message: `There is no such ${what}.`,
    remedy: 'Go back to the list and open it from there.',
  });

/** How deep what comes with a request may be nested. */
const DEEPEST = 200;

/** True if a value is nested deeper than may be; found without going into itself, however deep it is. */
function isTooDeep(value: unknown): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > DEEPEST) return true;
    level = level.flatMap((v) => (v !== null && typeof v === 'object' ? Object.values(v) : []));
  }
  return false;
}

/** Checks a request body against a schema. Errors: 400 `request-invalid` naming the place. */
export function readBody<T>(schema: z.ZodType<T>, req: Request): T {
  if (isTooDeep(req.body))
    throw new HttpProblem(400, {
      code: 'request-invalid',
      message: `The request is nested more than ${DEEPEST} deep.`,
      remedy: 'Write it flatter.',
    });
  const parsed = schema.safeParse(req.body);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  throw new HttpProblem(400, {
    code: 'request-invalid',
    message: `${issue.path.join('.') || 'The request'}: ${issue.message}`,
    path: issue.path.join('.'),
  });
}

/** Aborted when who asked goes before the answer: what is worked out for nobody can end. */
export function abortOnClose(res: Response): AbortSignal {
  const gone = new AbortController();
  res.on('close', () => {
    if (!res.writableFinished) gone.abort();
  });
  return gone.signal;
}

/** A route handler whose failures go to the error handler, whether thrown or rejected. */
export function route(handler: (req: Request, res: Response) => Promise<unknown> | unknown): RequestHandler {
  return async (req, res, next) => {
    try {
      const value = await handler(req, res);
      if (!res.headersSent && value !== undefined) res.json(value);
    } catch (error) {
      next(error);
    }
  };
}

function send(res: Response, status: number, body: Omit<ProblemDto, 'type' | 'status' | 'title'>): void {
  const title = status < 500 ? 'The request could not be done' : 'The server failed';
  res
    .status(status)
    .type('application/problem+json')
    .send(JSON.stringify({ type: 'about:blank', status, title, ...body }));
}

/** A request that the reading of it refused already, in our words; null for any other error. */
function describeRefusal(error: unknown): { status: number; code: string; detail: string } | null {
  const { status, type } = (error ?? {}) as { status?: number; type?: string };
  if (type === 'entity.parse.failed')
    return { status: 400, code: 'request-invalid', detail: 'The request is not JSON.' };
  if (type === 'entity.verify.failed')
    return {
      status: 400,
      code: 'request-invalid',
      detail: 'The request holds a sign that no text has (U+0000, or half of one).',
    };
  if (type === 'entity.too.large')
    return { status: 413, code: 'request-too-large', detail: 'The request is too large.' };
  if (type === 'encoding.unsupported' || type === 'charset.unsupported')
    return {
      status: 415,
      code: 'encoding-unsupported',
      detail: 'The request is encoded in a way that is not read here.',
    };
  if (typeof status === 'number' && status >= 400 && status < 500)
    return { status, code: 'request-invalid', detail: 'The request could not be read.' };
  return null;
}

/** What is said where the disk, the data folder or the number of open files does not allow it; null for any other error. */
function describeSystemError(
  error: unknown,
): { status: number; body: Omit<ProblemDto, 'type' | 'status' | 'title'> } | null {
  switch ((error as { code?: string } | null)?.code) {
    case 'ENOSPC':
    case 'EDQUOT':
      return {
        status: 507,
        body: {
          code: 'disk-full',
          detail: 'The disk of the data folder is full; nothing was saved.',
          remedy: 'Make room on it, then try again; nothing needs to be started anew.',
        },
      };
    case 'EROFS':
    case 'EACCES':
    case 'EPERM':
      return {
        status: 507,
        body: {
          code: 'folder-read-only',
          detail: 'The data folder cannot be written; nothing was saved.',
          remedy: 'Let the server write there, then try again.',
        },
      };
    case 'EMFILE':
    case 'ENFILE':
      return {
        status: 503,
        body: {
          code: 'too-many-files',
          detail: 'Too many files are open on this machine.',
          remedy: 'Try again in a moment, or allow more open files.',
        },
      };
    default:
      return null;
  }
}

/** Last handler: turns every error into problem+json and logs those that are ours. */
export function handleProblems(log: (error: unknown) => void): ErrorRequestHandler {
  return (error, req, res, next) => {
    if (res.headersSent) return next(error);
    if (error instanceof HttpProblem) {
      const { code, message, remedy } = error.problem;
      return send(res, error.status, { code, detail: message, remedy, changes: error.changes });
    }
    const system = describeSystemError(error);
    if (system) {
      log(error);
      return send(res, system.status, system.body);
    }
    // A part of the address that is not what it should be.
    if (error instanceof z.ZodError)
      return send(res, 400, { code: 'request-invalid', detail: `The address: ${error.issues[0]!.message}` });
    const refused = describeRefusal(error);
    if (refused) return send(res, refused.status, { code: refused.code, detail: refused.detail });
    log(
      Object.assign(error instanceof Error ? error : new Error(String(error)), {
        request: `${req.method} ${req.path}`,
      }),
    );
    return send(res, 500, {
      code: 'internal',
      detail: 'Something went wrong on the server.',
      remedy: 'Look whether it was done, then try again. If it stays, look at the server log.',
    });
  };
}
