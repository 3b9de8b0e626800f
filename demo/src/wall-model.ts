import { buildWall, Fillings } from './boathouse/site.ts';
import { IfcBuilder } from './ifc-builder.ts';

/** Writes a model of many straight walls, each of four layers with one window, for measuring speed. */
export function writeWallModel(count: number): string {
  const b = new IfcBuilder('walls/');
  b.storey('Ground floor', 0, [0, 0, 0]);
  const layers = b.layerSet('Outer wall', [
    [b.material('Lime render', 1600), 20],
    [b.material('Wood fibre board', 160), 60],
    [b.material('Timber frame insulated', 95), 200],
    [b.material('Gypsum board', 800), 20],
  ]);
  const type = b.type('IfcWallType', 'Outer wall 300', { predefined: 'SOLIDWALL' });
  const fillings = new Fillings(b);
  for (let i = 0; i < count; i++) {
    const [x, y] = [(i % 200) * 5000, Math.floor(i / 200) * 4000];
    buildWall(b, fillings, {
      key: `wall/${i}`,
      name: `Wall ${i + 1}`,
      from: [x, y],
      to: [x + 4000 + (i % 7) * 100, y],
      height: 3000,
      thickness: 300,
      type,
      layers,
      storey: 'Ground floor',
      colour: [0.9, 0.88, 0.82],
      holes: [{ key: `window/${i}`, kind: 'window', at: 1500 + (i % 5) * 100, sill: 900, width: 1200, height: 1400 }],
    });
  }
  b.finish();
  return b.step.finish('walls.ifc', '2026-03-02T09:00:00');
}
