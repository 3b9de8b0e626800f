/**
 * Base quantity sets of the standard by class: its names, and under which name we measure the same figure. Only where the standard means
 * another side than the word says do the two differ: the `Width` of a covering or a plate is its thickness, our `Depth`.
 * Source: IFC4 quantity sets, Qto_*BaseQuantities.
 */
export const QUANTITY_SETS: Readonly<
  Record<string, { readonly set: string; readonly names: Readonly<Record<string, string>> }>
> = {
  IfcWall: {
    set: 'Qto_WallBaseQuantities',
    names: same('Length', 'Width', 'Height', 'GrossFootprintArea', 'GrossSideArea', 'NetSideArea', 'GrossVolume', 'NetVolume', 'GrossWeight', 'NetWeight'), // biome-ignore format: one list
  },
  IfcSlab: {
    set: 'Qto_SlabBaseQuantities',
    names: same('Width', 'Length', 'Depth', 'Perimeter', 'GrossArea', 'NetArea', 'GrossVolume', 'NetVolume', 'GrossWeight', 'NetWeight'), // biome-ignore format: one list
  },
  IfcCovering: {
    set: 'Qto_CoveringBaseQuantities',
    names: { Width: 'Depth', ...same('GrossArea', 'NetArea') },
  },
  IfcPlate: {
    set: 'Qto_PlateBaseQuantities',
    names: { Width: 'Depth', ...same('Perimeter', 'GrossArea', 'NetArea', 'GrossVolume', 'NetVolume', 'GrossWeight', 'NetWeight') }, // biome-ignore format: one list
  },
  IfcBeam: { set: 'Qto_BeamBaseQuantities', names: linear() },
  IfcColumn: { set: 'Qto_ColumnBaseQuantities', names: linear() },
  IfcMember: { set: 'Qto_MemberBaseQuantities', names: linear() },
  IfcPile: { set: 'Qto_PileBaseQuantities', names: linear() },
  IfcFooting: {
    set: 'Qto_FootingBaseQuantities',
    names: same('Length', 'Width', 'Height', 'CrossSectionArea', 'OuterSurfaceArea', 'GrossSurfaceArea', 'GrossVolume', 'NetVolume', 'GrossWeight', 'NetWeight'), // biome-ignore format: one list
  },
  IfcDoor: { set: 'Qto_DoorBaseQuantities', names: same('Width', 'Height', 'Perimeter', 'Area') },
  IfcWindow: { set: 'Qto_WindowBaseQuantities', names: same('Width', 'Height', 'Perimeter', 'Area') },
  IfcRoof: { set: 'Qto_RoofBaseQuantities', names: same('GrossArea', 'NetArea') },
  IfcSpace: {
    set: 'Qto_SpaceBaseQuantities',
    names: same('Height', 'GrossPerimeter', 'NetPerimeter', 'GrossFloorArea', 'NetFloorArea', 'GrossWallArea', 'NetWallArea', 'GrossCeilingArea', 'NetVolume'), // biome-ignore format: one list
  },
};

function same(...names: readonly string[]): Record<string, string> {
  return Object.fromEntries(names.map((name) => [name, name]));
}

function linear(): Record<string, string> {
  return same('Length', 'CrossSectionArea', 'OuterSurfaceArea', 'GrossSurfaceArea', 'NetSurfaceArea', 'GrossVolume', 'NetVolume', 'GrossWeight', 'NetWeight'); // biome-ignore format: one list
}

/** The name we measure a stated figure of a class under. @example ('IfcCovering', 'Width') gives 'Depth' */
export function statedToMeasured(ifcClass: string, name: string): string {
  return QUANTITY_SETS[ifcClass]?.names[name] ?? name;
}
