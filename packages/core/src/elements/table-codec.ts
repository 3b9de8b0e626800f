import { type Result, success } from '../result/result.ts';
import { type ColumnFormat, decodeColumns, encodeColumns } from './column-file.ts';
import type { ElementTable } from './element-table.ts';

/** Version 2 had no faces and no middle lines of walls. */
const FORMAT: ColumnFormat = { letters: 'TLY', version: 3, oldest: 2 };

/** Packs a table into bytes. The caller compresses and stores it, named by its hash. */
export const encodeElementTable = (table: ElementTable): Uint8Array => encodeColumns(FORMAT, table);

/** Unpacks what `encodeElementTable` packed. Errors: `table-format` if the bytes are not such a table. */
export function decodeElementTable(bytes: Uint8Array): Result<ElementTable> {
  const table = decodeColumns<ElementTable>(FORMAT, bytes);
  if (!table.ok) return table;
  // Older tables have the identity of elements under the name that it has in models.
  const { globalId, ...columns } = table.value as ElementTable & { globalId?: ElementTable['identity'] };
  const { faces, wallAxes, count } = columns;
  return success({
    ...columns,
    identity: globalId ?? columns.identity,
    faces: faces ?? noFaces(count),
    wallAxes: wallAxes ?? [],
  });
}

const noFaces = (count: number): ElementTable['faces'] => ({
  offset: new Uint32Array(count + 1),
  style: { pool: [], index: new Int32Array(0) },
  look: { pool: [], index: new Int32Array(0) },
  area: new Float64Array(0),
});
