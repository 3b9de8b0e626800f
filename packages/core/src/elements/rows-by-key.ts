const rowsByKey = new WeakMap<Int32Array, ReadonlyMap<number, number>>();
/** Rows of a table by ElementKey; worked out once for the same keys. */
export function listRowsByKey(keys: Int32Array): ReadonlyMap<number, number> {
  let rows = rowsByKey.get(keys);
  if (!rows) {
    rows = new Map([...keys].map((key, row) => [key, row]));
    rowsByKey.set(keys, rows);
  }
  return rows;
}
