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
    const b = model.table.boxes.subarray(row * 6, row * 6 + 6);
    if (Number.isNaN(b[0]!)) continue;
    for (let k = 0; k < 3; k++) {
      box[k] = Math.min(box[k]!, b[k]!);
      box[k + 3] = Math.max(box[k + 3]!, b[k + 3]!);
    }
  }
  return box[0] === Infinity ? null : box;
}

/** Boxes of rows, those that have a shape. */
export function listBoxes(rows: Iterable<{ model: LoadedModel; row: number }>): ViewBox[] {
  return [...rows].flatMap(({ model, row }) => {
    const box = [...model.table.boxes.subarray(row * 6, row * 6 + 6)] as unknown as ViewBox;
    return Number.isNaN(box[0]) ? [] : [box];
  });
}

/** Every row of every model. */
export function* allRows(models: readonly LoadedModel[]): Generator<{ model: LoadedModel; row: number }> {
  for (const model of models) for (let row = 0; row < model.table.count; row++) yield { model, row };
}
