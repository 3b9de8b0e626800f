/** Ball around the middle of the box of points that holds all of them; around none its radius is negative. */
export function findBall(positions: Float32Array): {
  readonly centre: [number, number, number];
  readonly radius: number;
} {
  const least: [number, number, number] = [Infinity, Infinity, Infinity];
  const most: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const at = positions[i + k]!;
      if (at < least[k]!) least[k] = at;
      if (at > most[k]!) most[k] = at;
    }
  if (positions.length === 0) return { centre: [0, 0, 0], radius: -1 };
  const x = (least[0] + most[0]) / 2;
  const y = (least[1] + most[1]) / 2;
  const z = (least[2] + most[2]) / 2;
  let square = 0;
  for (let i = 0; i < positions.length; i += 3)
    square = Math.max(square, (positions[i]! - x) ** 2 + (positions[i + 1]! - y) ** 2 + (positions[i + 2]! - z) ** 2);
  return { centre: [x, y, z], radius: Math.sqrt(square) };
}
