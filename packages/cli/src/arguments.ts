/** Thrown for wrong use of the command: exit code 2. */
export class UsageError extends Error {}

export interface Arguments {
  readonly positional: readonly string[];
  readonly options: ReadonlyMap<string, string>;
}

/** Splits arguments into positional ones and `--name value` options. Errors: unknown option, missing value. */
export function readArguments(args: readonly string[], known: readonly string[]): Arguments {
  const positional: string[] = [];
  const options = new Map<string, string>();
  for (let i = 0; i < args.length; i++) {
    const arg = args[i]!;
    if (!arg.startsWith('--')) {
      positional.push(arg);
      continue;
    }
    const [name, inline] = arg.slice(2).split(/=(.*)/s) as [string, string | undefined];
    if (!known.includes(name)) throw new UsageError(`unknown option --${name}`);
    const value = inline ?? args[++i];
    if (value === undefined) throw new UsageError(`--${name} needs a value`);
    options.set(name, value);
  }
  return { positional, options };
}
