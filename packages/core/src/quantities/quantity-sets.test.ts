import { checkStated, checkStatedRows } from '../checks/check-elements.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { classToMeasureGroup } from './measure-element.ts';
import { GROUP_QUANTITIES, QUANTITY_DEFINITIONS } from './quantity-names.ts';
import { QUANTITY_SETS, statedToMeasured } from './quantity-sets.ts';

/** Names of the standard's sets that we do not measure under any name: surfaces with ends, gross figures of rooms, weights. */
const NOT_MEASURED = new Set(['GrossSurfaceArea', 'NetSurfaceArea', 'GrossWeight', 'NetWeight', 'GrossFloorArea']);

it.each(Object.entries(QUANTITY_SETS))(
  '%s: every name of its set is one we know, and measure for its group',
  (ifcClass, { set, names }) => {
    expect(set).toMatch(/^Qto_\w+BaseQuantities$/);
    const known = new Set(QUANTITY_DEFINITIONS.map((d) => d.name));
    const measured = new Set(GROUP_QUANTITIES[classToMeasureGroup(ifcClass)]);
    for (const [stated, ours] of Object.entries(names)) {
      expect(known).toContain(stated);
      const isMeasured = NOT_MEASURED.has(stated) || measured.has(ours) || (ifcClass === 'IfcFooting' && stated === 'CrossSectionArea'); // biome-ignore format: one test
      expect([stated, isMeasured]).toEqual([stated, true]);
    }
  },
);

it('the width of a covering and of a plate is its thickness, of a wall its width', () => {
  expect([statedToMeasured('IfcCovering', 'Width'), statedToMeasured('IfcPlate', 'Width'), statedToMeasured('IfcWall', 'Width')]).toEqual(['Depth', 'Depth', 'Width']); // biome-ignore format: one call
  const covering = (width: number) =>
    sampleElement({
      globalId: 'c',
      ifcClass: 'IfcCovering',
      quantities: { Width: 2, Depth: 0.02 },
      stated: { Width: width },
    });
  expect(checkStated([covering(0.02)])).toEqual([]);
  expect(checkStated([covering(2)])).toHaveLength(1);
  expect(checkStatedRows(buildElementTable([covering(0.02)]), 0.01)).toEqual([]);
});
