import { median } from './median.ts';

it.each([
  [[5], 5],
  [[9, 1, 3], 3],
  [[1, 9, 3, 4], 3.5],
  [[2, -2], 0],
])('the middle of %j is %d', (figures, middle) => {
  const before = [...figures];
  expect(median(figures)).toBe(middle);
  // What was given stays in its order.
  expect(figures).toEqual(before);
});
it('of nothing is no figure', () => expect(median([])).toBeNaN());
