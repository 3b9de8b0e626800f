/**
 * Remembers the outcomes for the last few objects asked about. Measuring one element asks the same of the same two or three
 * solids again and again; remembering all solids of a large model would cost more than it saves.
 */
export function rememberRecent<K extends object, V>(work: (key: K) => V, most = 8): (key: K) => V {
  const keys: (K | undefined)[] = new Array(most).fill(undefined);
  const values: V[] = [];
  let next = 0;
  return (key) => {
    for (let i = 0; i < most; i++) if (keys[i] === key) return values[i]!;
    const value = work(key);
    keys[next] = key;
    values[next] = value;
    next = (next + 1) % most;
    return value;
  };
}
