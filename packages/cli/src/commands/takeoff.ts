import {
  failure,
  findJunctionsAmong,
  findQuantity,
  foldText,
  isClassOrSubtype,
  type JunctionCounts,
  type JunctionsAmong,
  type ModelElement,
  properClassName,
  type Result,
  success,
} from '@tally/core';
import { type ModelTakeoff, sliceElement, takeOffIfc } from '@tally/ifc';
import { readBytes } from '../input.ts';

export interface TakeoffRequest {
  /** Class or type name: only walls of it are looked at for junctions. */
  readonly junctions?: string;
  /** GlobalId of an element to cut at every storey. */
  readonly slice?: string;
}

/** `takeoff MODEL.ifc [--junctions "CLASS or TYPE"] [--slice GLOBALID]`: elements with their quantities, rooms, storeys, findings. */
export async function takeoff(path: string, request: TakeoffRequest = {}): Promise<Result<unknown>> {
  const bytes = readBytes(path);
  if (!bytes.ok) return bytes;
  const read = await takeOffIfc(bytes.value);
  if (!read.ok) return read;
  const { elements, findings, model, storeys } = read.value;
  const junctions = countChosen(read.value, request.junctions);
  if (!junctions.ok) return junctions;
  const slices = request.slice === undefined ? null : await sliceElement(bytes.value, read.value, request.slice);
  if (slices && !slices.ok) return slices;
  return success({
    file: { schema: model.schema, lengthUnit: model.units.lengthName },
    elements: elements.map((e, i) => toJson(e, junctions.value.byRow.get(i))),
    junctions: junctions.value.total,
    rooms: elements.filter((e) => e.finishes).map(toRoom),
    storeys: storeys.map(({ name, elevation, gfa, gfaMethod }) => ({ name, elevation, gfa, gfaMethod })),
    roofSlopes: (read.value.site.roofSlopes ?? []).map(({ row, ...slope }) => ({
      globalId: elements[row]!.globalId,
      ...slope,
    })),
    ...(slices ? { slices: slices.value } : {}),
    findings,
  });
}

/** Junctions over all walls, or only among those of a class or a type. */
function countChosen({ elements, junctions, site }: ModelTakeoff, wanted: string | undefined): Result<JunctionsAmong> {
  if (wanted === undefined) return success(junctions);
  const folded = foldText(wanted);
  const isClass = properClassName(wanted) !== undefined;
  const isChosen = (e: ModelElement) =>
    isClass ? isClassOrSubtype(e.ifcClass, wanted) : e.typeName !== null && foldText(e.typeName) === folded;
  if (!isClass && !elements.some(isChosen))
    return failure('junctions-unknown', `"${wanted}" is neither a class nor the type of any element.`, {
      remedy: 'Give an IFC class such as IfcWall, or a type name as in the model.',
    });
  return success(findJunctionsAmong((site.wallAxes ?? []).filter(({ row }) => isChosen(elements[row]!))));
}

function toRoom(e: ModelElement): unknown {
  const figure = (name: string) =>
    (findQuantity(e, name, 'measured') ?? findQuantity(e, name, 'stated'))?.value ?? null;
  return {
    globalId: e.globalId,
    name: e.name,
    storey: e.storey,
    netFloorArea: figure('NetFloorArea'),
    grossPerimeter: figure('GrossPerimeter'),
    height: figure('Height'),
    finishes: e.finishes,
  };
}

function toJson(
  { box: _box, finishes: _finishes, ...e }: ModelElement,
  junctions: JunctionCounts | undefined,
): unknown {
  return { ...e, ...(junctions ? { junctions } : {}) };
}
