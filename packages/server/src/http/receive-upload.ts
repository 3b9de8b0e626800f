import { rmSync } from 'node:fs';
import type { Request, RequestHandler, Response } from 'express';
import multer from 'multer';
import { HttpProblem, route } from './http-problem.ts';

/** A file that came with a request. It is gone when its handler has ended. */
export interface Upload {
  readonly path: string;
  readonly fileName: string;
}

/**
 * Handlers of a request that brings one file. Errors: 400 if none came, 413 above the largest size.
 * @param folder where it lies while it is handled
 * @param what is wanted, for the remedy, e.g. `one IFC file`
 */
export function receiveUpload(
  folder: string,
  largestBytes: number,
  what: string,
  handle: (upload: Upload, req: Request, res: Response) => Promise<unknown>,
): RequestHandler[] {
  const upload = multer({
    storage: multer.diskStorage({ destination: (_req, _file, done) => done(null, folder) }),
    limits: { fileSize: largestBytes, files: 1, fields: 8, fieldSize: 10_000, fieldNameSize: 100, parts: 10 },
  });
  const single = upload.single('file');
  return [
    (req, res, next) =>
      single(req, res, (error: unknown) => next(error === undefined || isOfSystem(error) ? error : refused(error))),
    route(async (req, res) => {
      const { file } = req;
      if (!file)
        throw new HttpProblem(400, {
          code: 'upload-refused',
          message: 'No file came with the request.',
          remedy: `Choose ${what}.`,
        });
      try {
        return await handle(
          { path: file.path, fileName: Buffer.from(file.originalname, 'latin1').toString('utf8') },
          req,
          res,
        );
      } finally {
        rmSync(file.path, { force: true });
      }
    }),
  ];
}

/** Errors of the system are told elsewhere. */
const isOfSystem = (error: unknown): boolean =>
  !(error instanceof multer.MulterError) && typeof (error as { code?: unknown } | null)?.code === 'string';

/** A body that is no upload, is more than is taken, or ends before it should. */
function refused(error: unknown): HttpProblem {
  if (!(error instanceof multer.MulterError))
    return new HttpProblem(400, {
      code: 'upload-refused',
      message: `The upload could not be read: ${error instanceof Error ? error.message : String(error)}.`,
      remedy: 'Bring the file again.',
    });
  const isTooLarge = error.code === 'LIMIT_FILE_SIZE';
  return new HttpProblem(isTooLarge ? 413 : 400, {
    code: 'upload-refused',
    message: isTooLarge
      ? 'The file is larger than may be brought: 2 GB for a model, 150 MB for a price sheet.'
      : 'The upload could not be read.',
    remedy: 'Choose one file, without what is not needed.',
  });
}
