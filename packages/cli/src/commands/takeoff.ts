import { type ModelElement, type Result, success } from '@tally/core';
import { readModel } from '../input.ts';

/** `takeoff MODEL.ifc`: every element with its quantities, and the findings. */
export async function takeoff(path: string): Promise<Result<unknown>> {
  const read = await readModel(path);
  if (!read.ok) return read;
  const { elements, findings, model } = read.value;
  return success({
    file: { schema: model.schema, lengthUnit: model.units.lengthName },
    elements: elements.map(toJson),
    findings,
  });
}

function toJson({ box: _box, codes, zones, ...element }: ModelElement): unknown {
  const {
    globalId,
    ifcClass,
    name,
    typeName,
    tag,
    storey,
    space,
    parent,
    host,
    materials,
    quantities,
    layers,
    openings,
    properties,
  } = element;
  return {
    globalId,
    ifcClass,
    name,
    typeName,
    tag,
    storey,
    space,
    parent,
    host,
    materials,
    quantities,
    layers,
    openings,
    properties,
    codes,
    zones,
  };
}
