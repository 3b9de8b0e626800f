import { gunzipSync } from 'node:zlib';
import type { Request, Response } from 'express';
import type { PackedReading } from '../../engine/plan-messages.ts';

/** Answers with a reading as it was packed; with 304 if who asks has it already. */
export function sendReading(req: Request, res: Response, { gzip, tag }: PackedReading): void {
  res.setHeader('etag', tag).setHeader('cache-control', 'no-cache').vary('accept-encoding').type('json');
  if (req.fresh) {
    res.status(304).end();
    return;
  }
  const isPackedTaken = req.acceptsEncodings('gzip') === 'gzip';
  if (isPackedTaken) res.setHeader('content-encoding', 'gzip');
  res.end(isPackedTaken ? gzip : gunzipSync(gzip));
}
