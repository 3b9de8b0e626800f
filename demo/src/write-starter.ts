import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { makeStarter } from './starter/starter.ts';

/** One entry a line: a change of one is seen as one. */
const lines = (value: unknown): string =>
  Array.isArray(value) ? `[\n${value.map((v) => `  ${JSON.stringify(v)}`).join(',\n')}\n ]` : JSON.stringify(value);

/** Writes demo/starter.json, the rough rules and book that come along. */
const parts = Object.entries(makeStarter()).map(([name, value]) => ` ${JSON.stringify(name)}: ${lines(value)}`);
writeFileSync(join(import.meta.dirname, '../starter.json'), `{\n${parts.join(',\n')}\n}\n`);
