import type { ChangeDto, Problem, ProblemDto } from '@tally/core';
import type { ErrorRequestHandler, Request, RequestHandler, Response } from 'express';
import multer from 'multer';
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

/** Checks a request body against a schema. Errors: 400 `request-invalid` naming the place. */
export function readBody<T>(schema: z.ZodType<T>, req: Request): T {
  const parsed = schema.safeParse(req.body);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  throw new HttpProblem(400, {
    code: 'request-invalid',
    message: `${issue.path.join('.') || 'The request'}: ${issue.message}`,
    path: issue.path.join('.'),
  });
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

/** Last handler: turns every error into problem+json and logs those that are ours. */
export function handleProblems(log: (error: unknown) => void): ErrorRequestHandler {
  return (error, _req, res, next) => {
    if (res.headersSent) return next(error);
    if (error instanceof HttpProblem) {
      const { code, message, remedy } = error.problem;
      return send(res, error.status, { code, detail: message, remedy, changes: error.changes });
    }
    if (error instanceof multer.MulterError)
      return send(res, 400, {
        code: 'upload-refused',
        detail:
          error.code === 'LIMIT_FILE_SIZE'
            ? 'The file is larger than may be brought: 2 GB for a model, 150 MB for a price sheet.'
            : 'The upload could not be read.',
        remedy: 'Choose one file, without what is not needed.',
      });
    // A part of the address that is not what it should be.
    if (error instanceof z.ZodError)
      return send(res, 400, { code: 'request-invalid', detail: `The address: ${error.issues[0]!.message}` });
    if (error?.type === 'entity.parse.failed')
      return send(res, 400, { code: 'request-invalid', detail: 'The request is not JSON.' });
    if (error?.type === 'entity.too.large')
      return send(res, 413, { code: 'request-too-large', detail: 'The request is too large.' });
    log(error);
    return send(res, 500, {
      code: 'internal',
      detail: 'Something went wrong on the server; nothing was changed.',
      remedy: 'Try again. If it stays, look at the server log.',
    });
  };
}
