import type { LoadedModel } from '../../store/loaded-models.ts';
import type { ViewBox } from '../../viewer/index.ts';

/** Box around rows of a model; null if none of them has a shape. */
export function boundRows(rows: Iterable<{ model: LoadedModel; row: number }>): ViewBox | null {
  const box: [number, number, number, number, number, number] = [
    Infinity,
    Infinity,
    Infinity,
    -Infinity,
    -Infinity,
    -Infinity,
  ];
  for (const { model, row } of rows) {
    const [all, i] = [model.table.boxes, row * 6];
    if (Number.isNaN(all[i]!)) continue;
    for (let k = 0; k < 3; k++) {
      box[k] = Math.min(box[k]!, all[i + k]!);
      box[k + 3] = Math.max(box[k + 3]!, all[i + k + 3]!);
    }
  }
  return box[0] === Infinity ? null : box;
}

/** Boxes of rows, those that have a shape. */
export function listBoxes(rows: Iterable<{ model: LoadedModel; row: number }>): ViewBox[] {
  const list: ViewBox[] = [];
  for (const { model, row } of rows) {
    const [all, i] = [model.table.boxes, row * 6];
    if (!Number.isNaN(all[i]!)) list.push([all[i]!, all[i + 1]!, all[i + 2]!, all[i + 3]!, all[i + 4]!, all[i + 5]!]);
  }
  return list;
}

/** Every row of every model. */
export function* allRows(models: readonly LoadedModel[]): Generator<{ model: LoadedModel; row: number }> {
  for (const model of models) for (let row = 0; row < model.table.count; row++) yield { model, row };
}
