import type { Response } from 'express';

/** Content type of a spreadsheet file. */
export const XLSX_TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** Answers with a file that is kept under the project's name and a word for what it is. @example `Haven Yard plan.csv` */
export function sendFile(
  res: Response,
  type: string,
  project: string,
  fileName: string,
  content: string | Uint8Array,
): void {
  const name = `${project.replace(/[^\p{L}\p{N} _-]/gu, '')} ${fileName}`;
  res
    .type(type)
    .setHeader(
      'content-disposition',
      `attachment; filename="${fileName}"; filename*=UTF-8''${encodeURIComponent(name)}`,
    );
  res.send(typeof content === 'string' ? content : Buffer.from(content));
}
