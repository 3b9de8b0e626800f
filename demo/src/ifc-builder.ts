import { type Point, type Point2, ShapeBuilder } from './shape-builder.ts';
import { Enum, Int, nameToGlobalId, type Ref, type StepAttribute, Typed } from './step-writer.ts';

export type { Point, Point2 } from './shape-builder.ts';

/** What an element is given besides its shape. */
export interface ElementOptions {
  readonly name: string;
  readonly key: string;
  readonly at: Point;
  /** Direction of the local x axis on plan; east if absent. */
  readonly along?: Point;
  /** Direction of the local z axis; up if absent. */
  readonly up?: Point;
  readonly shape?: Ref | null;
  readonly type?: Ref;
  readonly tag?: string;
  /** Attributes after Tag. */
  readonly rest?: readonly StepAttribute[];
  readonly storey?: string | null;
  readonly relativeTo?: Ref;
}

export interface Quantities {
  readonly set: string;
  readonly lengths?: Record<string, number>;
  readonly areas?: Record<string, number>;
  readonly volumes?: Record<string, number>;
}

/** Builds a model record by record: spatial structure, types, materials, shapes, relations. Millimetres; areas m2, volumes m3. */
export class IfcBuilder extends ShapeBuilder {
  private readonly history: Ref;
  private readonly body: Ref;
  private readonly axis: Ref;
  private readonly project: Ref;
  private readonly building: Ref;
  private readonly ground: Ref;
  private readonly origin: Ref;
  private readonly storeys = new Map<string, { ref: Ref; placement: Ref; elements: Ref[]; spaces: Ref[] }>();
  private readonly occurrences = new Map<number, { type: Ref; elements: Ref[] }>();
  private readonly ofMaterial = new Map<number, { material: Ref; elements: Ref[] }>();
  private readonly ofCode = new Map<string, Ref[]>();
  private readonly materials = new Map<string, Ref>();
  private readonly ofProperties = new Map<string, { set: Ref; elements: Ref[] }>();

  constructor(private readonly prefix: string) {
    super();
    const s = this.step;
    const person = s.add('IfcPerson', null, 'Design desk', null, null, null, null, null, null);
    const organization = s.add('IfcOrganization', null, 'Heron Wharf design desk', null, null, null);
    const both = s.add('IfcPersonAndOrganization', person, organization, null);
    const application = s.add('IfcApplication', organization, '1', 'Design desk', 'desk');
    this.history = s.add(
      'IfcOwnerHistory',
      both,
      application,
      null,
      new Enum('ADDED'),
      null,
      null,
      null,
      new Int(1700000000),
    );
    const unit = (type: string, prefix: string | null, name: string) =>
      s.add('IfcSIUnit', undefined, new Enum(type), prefix === null ? null : new Enum(prefix), new Enum(name));
    const units = s.add('IfcUnitAssignment', [
      unit('LENGTHUNIT', 'MILLI', 'METRE'),
      unit('AREAUNIT', null, 'SQUARE_METRE'),
      unit('VOLUMEUNIT', null, 'CUBIC_METRE'),
      unit('MASSUNIT', 'KILO', 'GRAM'),
      unit('PLANEANGLEUNIT', null, 'RADIAN'),
    ]);
    this.origin = this.placement3([0, 0, 0]);
    const context = s.add('IfcGeometricRepresentationContext', null, 'Model', new Int(3), 1e-5, this.origin, null);
    const sub = (id: string, view: string) =>
      s.add(
        'IfcGeometricRepresentationSubContext',
        id,
        'Model',
        undefined,
        undefined,
        undefined,
        undefined,
        context,
        null,
        new Enum(view),
        null,
      );
    this.body = sub('Body', 'MODEL_VIEW');
    this.axis = sub('Axis', 'GRAPH_VIEW');
    this.project = s.add(
      'IfcProject',
      this.id('project'),
      this.history,
      'Heron Wharf Boathouse',
      null,
      null,
      null,
      null,
      [context],
      units,
    );
    const place = s.add('IfcLocalPlacement', null, this.origin);
    this.ground = place;
    const site = s.add(
      'IfcSite',
      this.id('site'),
      this.history,
      'Heron Wharf',
      null,
      null,
      place,
      null,
      null,
      new Enum('ELEMENT'),
      null,
      null,
      null,
      null,
      null,
    );
    this.building = s.add(
      'IfcBuilding',
      this.id('building'),
      this.history,
      'Boathouse',
      null,
      null,
      place,
      null,
      null,
      new Enum('ELEMENT'),
      null,
      null,
      null,
    );
    this.aggregate('project/site', this.project, [site]);
    this.aggregate('site/building', site, [this.building]);
  }

  id(key: string): string {
    return nameToGlobalId(`${this.prefix}${key}`);
  }

  storey(name: string, elevation: number, offset: Point): void {
    const placement = this.step.add(
      'IfcLocalPlacement',
      this.ground,
      this.placement3([offset[0], offset[1], elevation]),
    );
    const ref = this.step.add(
      'IfcBuildingStorey',
      this.id(`storey/${name}`),
      this.history,
      name,
      null,
      null,
      placement,
      null,
      null,
      new Enum('ELEMENT'),
      elevation,
    );
    this.storeys.set(name, { ref, placement, elements: [], spaces: [] });
  }

  shape(solids: readonly Ref[], kind = 'SweptSolid', axisTo?: Point2): Ref {
    const representations = [this.step.add('IfcShapeRepresentation', this.body, 'Body', kind, [...solids])];
    if (axisTo) {
      const line = this.step.add('IfcPolyline', [this.point([0, 0]), this.point(axisTo)]);
      representations.unshift(this.step.add('IfcShapeRepresentation', this.axis, 'Axis', 'Curve2D', [line]));
    }
    return this.step.add('IfcProductDefinitionShape', null, null, representations);
  }

  /** Shape of a wall whose middle line is no straight one. */
  shapeWithAxis(solid: Ref, axis: Ref): Ref {
    return this.step.add('IfcProductDefinitionShape', null, null, [
      this.step.add('IfcShapeRepresentation', this.axis, 'Axis', 'Curve2D', [axis]),
      this.step.add('IfcShapeRepresentation', this.body, 'Body', 'SweptSolid', [solid]),
    ]);
  }

  map(solids: readonly Ref[]): Ref {
    const representation = this.step.add('IfcShapeRepresentation', this.body, 'Body', 'SweptSolid', [...solids]);
    return this.step.add('IfcRepresentationMap', this.origin, representation);
  }

  mapped(map: Ref): Ref {
    const operator = this.step.add(
      'IfcCartesianTransformationOperator3D',
      null,
      null,
      this.point([0, 0, 0]),
      null,
      null,
    );
    return this.shape([this.step.add('IfcMappedItem', map, operator)], 'MappedRepresentation');
  }

  // --- elements ------------------------------------------------------------------------------------------------------
  element(ifcClass: string, o: ElementOptions): { ref: Ref; placement: Ref } {
    const storey = o.storey ? this.storeys.get(o.storey)! : null;
    const base = o.relativeTo ?? storey?.placement ?? this.ground;
    const placement = this.step.add(
      'IfcLocalPlacement',
      base,
      this.placement3(o.at, o.up ?? (o.along ? [0, 0, 1] : undefined), o.along),
    );
    const ref = this.step.add(
      ifcClass,
      this.id(o.key),
      this.history,
      o.name,
      null,
      null,
      placement,
      o.shape ?? null,
      o.tag ?? null,
      ...(o.rest ?? [null]),
    );
    storey?.elements.push(ref);
    if (o.type) {
      const group = this.occurrences.get(o.type.id) ?? { type: o.type, elements: [] };
      group.elements.push(ref);
      this.occurrences.set(o.type.id, group);
    }
    return { ref, placement };
  }

  space(key: string, o: { name: string; number: string; at: Point; shape: Ref; storey: string }): Ref {
    const storey = this.storeys.get(o.storey)!;
    const placement = this.step.add('IfcLocalPlacement', storey.placement, this.placement3(o.at));
    const ref = this.step.add(
      'IfcSpace',
      this.id(key),
      this.history,
      o.number,
      null,
      null,
      placement,
      o.shape,
      o.name,
      new Enum('ELEMENT'),
      new Enum('INTERNAL'),
      null,
    );
    storey.spaces.push(ref);
    return ref;
  }

  opening(key: string, host: { ref: Ref; placement: Ref }, at: Point, solid: Ref): { ref: Ref; placement: Ref } {
    const placement = this.step.add('IfcLocalPlacement', host.placement, this.placement3(at));
    const ref = this.step.add(
      'IfcOpeningElement',
      this.id(key),
      this.history,
      'Opening',
      null,
      null,
      placement,
      this.shape([solid]),
      null,
      new Enum('OPENING'),
    );
    this.step.add('IfcRelVoidsElement', this.id(`${key}/voids`), this.history, null, null, host.ref, ref);
    return { ref, placement };
  }

  fill(key: string, opening: Ref, filler: Ref): void {
    this.step.add('IfcRelFillsElement', this.id(`${key}/fills`), this.history, null, null, opening, filler);
  }

  aggregate(key: string, whole: Ref, parts: readonly Ref[]): void {
    if (parts.length > 0)
      this.step.add('IfcRelAggregates', this.id(`${key}/parts`), this.history, null, null, whole, [...parts]);
  }

  zone(name: string, members: readonly Ref[]): void {
    const zone = this.step.add('IfcZone', this.id(`zone/${name}`), this.history, name, null, null, null);
    this.step.add(
      'IfcRelAssignsToGroup',
      this.id(`zone/${name}/members`),
      this.history,
      null,
      null,
      [...members],
      null,
      zone,
    );
  }

  // --- types, materials, properties ----------------------------------------------------------------------------------
  type(
    ifcClass: string,
    name: string,
    o: { predefined?: string; maps?: readonly Ref[]; rest?: readonly StepAttribute[] } = {},
  ): Ref {
    return this.step.add(
      ifcClass,
      this.id(`type/${name}`),
      this.history,
      name,
      null,
      null,
      null,
      o.maps ? [...o.maps] : null,
      null,
      null,
      new Enum(o.predefined ?? 'NOTDEFINED'),
      ...(o.rest ?? []),
    );
  }

  material(name: string, density?: number): Ref {
    let ref = this.materials.get(name);
    if (!ref) {
      ref = this.step.add('IfcMaterial', name, null, null);
      this.materials.set(name, ref);
      if (density !== undefined) {
        const value = this.step.add(
          'IfcPropertySingleValue',
          'MassDensity',
          null,
          new Typed('IFCMASSDENSITYMEASURE', density),
          null,
        );
        this.step.add('IfcMaterialProperties', 'Pset_MaterialCommon', null, [value], ref);
      }
    }
    return ref;
  }

  layerSet(name: string, layers: readonly (readonly [Ref, number])[]): Ref {
    return this.step.add(
      'IfcMaterialLayerSet',
      layers.map(([material, thickness]) =>
        this.step.add('IfcMaterialLayer', material, thickness, null, null, null, null, null),
      ),
      name,
      null,
    );
  }

  /** A layer set as walls use it whose first layer lies on their left, seen along them; without this it lies on the right. */
  turnLayers(set: Ref, thickness: number): Ref {
    return this.step.add('IfcMaterialLayerSetUsage', set, new Enum('AXIS2'), new Enum('NEGATIVE'), thickness / 2, null);
  }

  assign(material: Ref, elements: readonly Ref[]): void {
    const group = this.ofMaterial.get(material.id) ?? { material, elements: [] };
    group.elements.push(...elements);
    this.ofMaterial.set(material.id, group);
  }

  classify(code: string, elements: readonly Ref[]): void {
    this.ofCode.set(code, [...(this.ofCode.get(code) ?? []), ...elements]);
  }

  /** Gives elements a property set; equal sets are shared. */
  properties(set: string, values: Record<string, string | boolean | number>, elements: readonly Ref[]): void {
    const key = JSON.stringify([set, values]);
    let group = this.ofProperties.get(key);
    if (!group) {
      const list = Object.entries(values).map(([name, value]) =>
        this.step.add(
          'IfcPropertySingleValue',
          name,
          null,
          typeof value === 'string'
            ? new Typed('IFCLABEL', value)
            : typeof value === 'boolean'
              ? new Typed('IFCBOOLEAN', value)
              : new Typed('IFCREAL', value),
          null,
        ),
      );
      group = {
        set: this.step.add('IfcPropertySet', this.id(`pset/${key}`), this.history, set, null, list),
        elements: [],
      };
      this.ofProperties.set(key, group);
    }
    group.elements.push(...elements);
  }

  quantities(key: string, element: Ref, q: Quantities): void {
    const write = (type: string, values: Record<string, number> = {}) =>
      Object.entries(values).map(([name, value]) => this.step.add(type, name, null, null, value, null));
    const list = [
      ...write('IfcQuantityLength', q.lengths),
      ...write('IfcQuantityArea', q.areas),
      ...write('IfcQuantityVolume', q.volumes),
    ];
    const set = this.step.add('IfcElementQuantity', this.id(`${key}/${q.set}`), this.history, q.set, null, null, list);
    this.step.add(
      'IfcRelDefinesByProperties',
      this.id(`${key}/${q.set}/rel`),
      this.history,
      null,
      null,
      [element],
      set,
    );
  }

  /** Writes the collected relations; the builder is used up afterwards. */
  finish(): void {
    const rel = (type: string, key: string, elements: readonly Ref[], to: Ref) =>
      this.step.add(type, this.id(key), this.history, null, null, [...elements], to);
    this.aggregate(
      'building/storeys',
      this.building,
      [...this.storeys.values()].map((s) => s.ref),
    );
    for (const [name, { ref, elements, spaces }] of this.storeys) {
      if (elements.length > 0) rel('IfcRelContainedInSpatialStructure', `storey/${name}/contains`, elements, ref);
      this.aggregate(`storey/${name}/spaces`, ref, spaces);
    }
    for (const { type, elements } of this.occurrences.values())
      rel('IfcRelDefinesByType', `type/${type.id}/occurrences`, elements, type);
    for (const { material, elements } of this.ofMaterial.values())
      rel('IfcRelAssociatesMaterial', `material/${material.id}/elements`, elements, material);
    for (const { set, elements } of this.ofProperties.values())
      rel('IfcRelDefinesByProperties', `pset/${set.id}/elements`, elements, set);
    const classification = this.step.add('IfcClassification', null, null, null, 'UNIFORMAT II', null, null, null);
    for (const [code, elements] of this.ofCode) {
      const reference = this.step.add('IfcClassificationReference', null, code, null, classification, null, null);
      rel('IfcRelAssociatesClassification', `code/${code}`, elements, reference);
    }
  }
}
