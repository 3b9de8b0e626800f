import { writeSync } from 'node:fs';
import type { Result } from '@tally/core';
import { readArguments, UsageError } from './arguments.ts';
import { baseline, compareBaseline, isBaselinePath } from './commands/baseline.ts';
import { compare } from './commands/compare.ts';
import { completeness } from './commands/completeness.ts';
import { cut } from './commands/cut.ts';
import { derive } from './commands/derive.ts';
import { explain } from './commands/explain.ts';
import { formula } from './commands/formula.ts';
import { purchases } from './commands/purchases.ts';
import { suggestCodes } from './commands/suggest-codes.ts';
import { takeoff } from './commands/takeoff.ts';
import { listJsonPieces } from './write-json.ts';

const USAGE = `Use:
  tally takeoff MODEL.ifc [--junctions "CLASS or TYPE NAME"] [--slice GLOBALID]
  tally price MODEL.ifc --template T.json [--book SHEET.xlsx] [--out FILE.csv or FILE.xlsx] [--group-by storey,kind] [--rows item|element|cell]
  tally purchases MODEL.ifc --template T.json
  tally compare OLD.ifc NEW.ifc --template T.json [--new-template T2.json] [--group-by FIELD]
  tally baseline MODEL.ifc --template T.json --out B.tally
  tally compare B.tally NEW.ifc [--new-template T2.json] [--group-by FIELD]
  tally explain MODEL.ifc --template T.json --element GLOBALID
  tally derive MODEL.ifc --template T.json --element GLOBALID [--item CODE]
  tally cut MODEL.ifc --template T.json --item CODE
  tally completeness MODEL.ifc --template T.json
  tally suggest-codes MODEL.ifc --template T.json [--property SET.NAME]
  tally formula 'EXPR' --unit UNIT [--model M.ifc --element GLOBALID]
`;

/** Writes all of a text to a file descriptor, whatever it is connected to. */
function writeAll(fd: number, text: string): void {
  const bytes = Buffer.from(text);
  for (let at = 0; at < bytes.length; ) {
    try {
      at += writeSync(fd, bytes, at);
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code === 'EPIPE') return;
      if (code !== 'EAGAIN') throw error;
      // A pipe that is full: give its reader a moment.
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 5);
    }
  }
}

function need(value: string | undefined, what: string): string {
  if (value === undefined) throw new UsageError(`${what} is missing`);
  return value;
}

async function run(args: readonly string[]): Promise<{ json: unknown; isOk: boolean }> {
  const [command, ...rest] = args;
  const take = (options: readonly string[], most: number) => {
    const read = readArguments(rest, options);
    if (read.positional.length > most) throw new UsageError(`"${read.positional[most]}" is one argument too many`);
    return read;
  };
  const settle = (result: Result<unknown>) =>
    result.ok ? { json: result.value, isOk: true } : { json: { problem: result.problem }, isOk: false };
  switch (command) {
    case 'takeoff': {
      const { positional, options } = take(['junctions', 'slice'], 1);
      return settle(
        await takeoff(need(positional[0], 'MODEL.ifc'), {
          junctions: options.get('junctions'),
          slice: options.get('slice'),
        }),
      );
    }
    case 'price': {
      const { positional, options } = take(['template', 'out', 'book', 'group-by', 'rows'], 1);
      // What reads and writes spreadsheets is loaded where it is needed: it takes longer than a small model.
      const { price } = await import('./commands/price.ts');
      return settle(
        await price(need(positional[0], 'MODEL.ifc'), need(options.get('template'), '--template'), {
          book: options.get('book'),
          out: options.get('out'),
          groupBy: options.get('group-by'),
          rows: options.get('rows'),
        }),
      );
    }
    case 'purchases': {
      const { positional, options } = take(['template'], 1);
      return settle(await purchases(need(positional[0], 'MODEL.ifc'), need(options.get('template'), '--template')));
    }
    case 'compare': {
      const { positional, options } = take(['template', 'new-template', 'group-by'], 2);
      const [old, fresh] = [need(positional[0], 'OLD.ifc or B.tally'), need(positional[1], 'NEW.ifc')];
      const how = { newTemplate: options.get('new-template'), groupBy: options.get('group-by') };
      if (isBaselinePath(old)) {
        // What a frozen plan was priced by is in its file.
        const newTemplate = how.newTemplate ?? options.get('template');
        return settle(await compareBaseline(old, fresh, { ...how, newTemplate }));
      }
      return settle(await compare(old, fresh, need(options.get('template'), '--template'), how));
    }
    case 'baseline': {
      const { positional, options } = take(['template', 'out'], 1);
      const [template, out] = [need(options.get('template'), '--template'), need(options.get('out'), '--out')];
      return settle(await baseline(need(positional[0], 'MODEL.ifc'), template, out));
    }
    case 'explain': {
      const { positional, options } = take(['template', 'element'], 1);
      return settle(
        await explain(
          need(positional[0], 'MODEL.ifc'),
          need(options.get('template'), '--template'),
          need(options.get('element'), '--element'),
        ),
      );
    }
    case 'derive': {
      const { positional, options } = take(['template', 'element', 'item'], 1);
      return settle(
        await derive(
          need(positional[0], 'MODEL.ifc'),
          need(options.get('template'), '--template'),
          need(options.get('element'), '--element'),
          options.get('item') ?? null,
        ),
      );
    }
    case 'cut': {
      const { positional, options } = take(['template', 'item'], 1);
      return settle(
        await cut(
          need(positional[0], 'MODEL.ifc'),
          need(options.get('template'), '--template'),
          need(options.get('item'), '--item'),
        ),
      );
    }
    case 'completeness': {
      const { positional, options } = take(['template'], 1);
      return settle(await completeness(need(positional[0], 'MODEL.ifc'), need(options.get('template'), '--template')));
    }
    case 'suggest-codes': {
      const { positional, options } = take(['template', 'property'], 1);
      return settle(
        await suggestCodes(
          need(positional[0], 'MODEL.ifc'),
          need(options.get('template'), '--template'),
          options.get('property') ?? null,
        ),
      );
    }
    case 'formula': {
      const { positional, options } = take(['unit', 'model', 'element'], 1);
      const [model, element] = [options.get('model'), options.get('element')];
      if ((model === undefined) !== (element === undefined)) throw new UsageError('--model and --element go together');
      const on = model === undefined || element === undefined ? undefined : { model, element };
      const json = await formula(need(positional[0], 'EXPR'), need(options.get('unit'), '--unit'), on);
      return { json, isOk: json.ok };
    }
    default:
      throw new UsageError(command === undefined ? 'a command is missing' : `there is no command "${command}"`);
  }
}

try {
  const { json, isOk } = await run(process.argv.slice(2));
  const problem = (json as { problem?: { message?: string } }).problem;
  if (problem?.message) writeAll(2, `${problem.message}\n`);
  for (const piece of listJsonPieces(json)) writeAll(1, piece);
  writeAll(1, '\n');
  process.exit(isOk ? 0 : 1);
} catch (error) {
  if (error instanceof UsageError) {
    writeAll(2, `tally: ${error.message}\n${USAGE}`);
    process.exit(2);
  }
  const message = error instanceof Error ? error.message : String(error);
  writeAll(2, `tally: ${message}\n`);
  writeAll(1, `${JSON.stringify({ problem: { code: 'internal', message } })}\n`);
  process.exit(1);
}
