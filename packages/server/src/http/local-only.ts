import type { RequestHandler } from 'express';
import { HttpProblem } from './http-problem.ts';

const LOCAL = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/;

/**
 * Lets through only requests that come for this machine by name and, where a browser says so, from a page of this server:
 * a page from elsewhere cannot reach it through the user's browser.
 */
export const localOnly: RequestHandler = (req, _res, next) => {
  const host = req.headers.host ?? '';
  const { origin } = req.headers;
  if (!LOCAL.test(host))
    return next(
      new HttpProblem(403, {
        code: 'host-refused',
        message: `This server does not answer for "${host}".`,
        remedy: 'Open it as http://localhost.',
      }),
    );
  if (origin !== undefined && origin !== `http://${host}`)
    return next(
      new HttpProblem(403, {
        code: 'origin-refused',
        message: 'The request comes from a page of another site.',
        remedy: 'Open the application itself.',
      }),
    );
  next();
};

/** Refuses addresses that cannot be read: broken percent codes, signs that no name has. */
export const refuseBrokenAddress: RequestHandler = (req, _res, next) => {
  let isBroken = false;
  try {
    isBroken = decodeURIComponent(req.path).includes('\0') || /%00/.test(req.url);
  } catch {
    isBroken = true;
  }
  next(
    isBroken
      ? new HttpProblem(400, { code: 'request-invalid', message: 'The address cannot be read.', remedy: 'Correct it.' })
      : undefined,
  );
};

/** Display name of whoever makes a change, from the request; "Somebody" if none was given. */
export function readAuthor(header: string | string[] | undefined): string {
  const text = Array.isArray(header) ? header[0] : header;
  if (!text) return 'Somebody';
  try {
    return decodeURIComponent(text).replaceAll('\0', '').trim().slice(0, 80) || 'Somebody';
  } catch {
    return 'Somebody';
  }
}
