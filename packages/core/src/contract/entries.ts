import { z } from 'zod';
import { attributeNameSchema, attributeValueSchema } from './attributes.ts';
import { pinnedBookSchema } from './book.ts';
import {
  assemblySchema,
  bandSchema,
  classificationSchema,
  costItemSchema,
  namedValueSchema,
  scaleSchema,
} from './book-schemas.ts';
import { allowanceSchema, listProfileSchema } from './lists.ts';
import { baselineSchema, checkedSchema, differenceSchema, givenSchema, identitySchema, noteSchema, optionSchema, planViewSchema, swapSchema, targetSchema } from './plan-entries.ts'; // biome-ignore format: one module
import { sheetProfileSchema } from './prices.ts';
import { expectedSchema, pinSchema, ruleSchema, scopeSchema, sectionSchema, settingsSchema } from './template.ts';
import { viewSchema } from './views.ts';

const finish = z.string().trim().min(1).max(200).nullable();

const limitLevel = z.strictObject({
  storey: z.string().max(200).nullable(),
  offsetM: z.number().min(-1000).max(10_000),
});

/** What a project keeps as entries, by kind. `order` keeps the order of rules and sections, `counting` the revision of a source that counts. */
export const ENTRY_SCHEMAS = {
  item: costItemSchema,
  assembly: assemblySchema,
  value: namedValueSchema,
  scale: scaleSchema,
  classification: classificationSchema,
  rule: ruleSchema,
  pin: pinSchema,
  section: sectionSchema,
  /** A scope with a name. */
  scope: scopeSchema,
  /** Sections that elements of a class are expected in; its id is the class. */
  expected: expectedSchema,
  /** What a class or element code usually costs per unit; its id is both. */
  band: bandSchema,
  settings: settingsSchema,
  /** Extra attributes of an element, by ElementKey. */
  attributes: z.record(attributeNameSchema, attributeValueSchema),
  /** Finishes given to a room, by ElementKey; null takes one away. */
  finishes: z.strictObject({
    floor: finish.optional(),
    wall: finish.optional(),
    ceiling: finish.optional(),
    skirting: finish.optional(),
  }),
  /** Parts of a room's walls with finishes of their own, by ElementKey. */
  wallFinishes: z
    .array(
      z
        .strictObject({
          finish,
          fromM: z.number().min(0, 'A height is counted from the floor.').max(1000).optional(),
          toM: z.number().positive().max(1000).optional(),
          walls: z.array(z.number().int()).max(500).optional(),
        })
        .refine((w) => (w.fromM ?? 0) < (w.toM ?? 1001), { error: 'A part ends above where it begins.' }),
    )
    .max(20),
  /** Facts about an element that the file has wrong, by ElementKey: what is said instead, by whom and when. */
  facts: z.strictObject({
    storey: z.string().trim().min(1).max(200).optional(),
    ifcClass: z
      .string()
      .regex(/^Ifc[A-Za-z]{2,80}$/, 'A class is one of IFC, e.g. IfcWall.')
      .optional(),
    typeName: z.string().trim().min(1).max(200).optional(),
    material: z.string().trim().min(1).max(200).optional(),
    function: z.string().trim().min(1).max(200).optional(),
    loadBearing: z.boolean().optional(),
    isExternal: z.boolean().optional(),
    by: z.string().max(120).optional(),
    at: z.string().max(40).optional(),
  }),
  /** Zones of our own of an element, by ElementKey. */
  zones: z.array(z.string().trim().min(1).max(120)).max(20),
  material: z.strictObject({
    name: z.string().trim().min(1).max(200),
    synonyms: z.array(z.string().max(200)).max(50).optional(),
    density: z
      .number()
      .positive('A density is more than 0 kg/m3.')
      .max(30000, 'No building material is that heavy.')
      .optional(),
  }),
  /** A room drawn here, by its (negative) ElementKey. */
  drawnRoom: z.strictObject({
    name: z.string().trim().min(1, 'A room needs a name.').max(120),
    storey: z.string().max(200).nullable(),
    rings: z.array(z.array(z.number()).min(6).max(2000)).min(1).max(20),
    /** Columns and courts in it. */
    holes: z.array(z.array(z.number()).min(6).max(2000)).max(500).optional(),
    bottomM: z.number(),
    topM: z.number(),
  }),
  /** A part of the building that quantities can be limited to. */
  limit: z
    .strictObject({
      name: z.string().trim().min(1, 'A limit needs a name.').max(80),
      above: limitLevel.optional(),
      below: limitLevel.optional(),
      outline: z.array(z.number()).min(6).max(2000).optional(),
    })
    .refine((l) => l.above ?? l.below ?? l.outline, { error: 'Say a level or draw an outline.' }),
  /** Faces of an element chosen by hand, by ElementKey; by the name of the quantity they make. */
  chosenFaces: z.record(
    z.string().trim().min(1, 'Chosen faces need a name.').max(80),
    z
      .array(z.strictObject({ normal: z.tuple([z.number(), z.number(), z.number()]), offsetM: z.number() }))
      .min(1)
      .max(200),
  ),
  /** An element that the project leaves out, by ElementKey. */
  leftOut: z.strictObject({ reason: z.string().trim().min(1).max(300) }),
  /** A finding taken as it is, by its key. */
  accepted: z.strictObject({ reason: z.string().trim().min(1, 'Say why.').max(500) }),
  /** The version of a shared book that the project stands on; its id is `project`. */
  book: pinnedBookSchema,
  /** An entry of the book that the project does without; its id is the kind and the id of that entry. */
  takenOut: z.strictObject({}),
  /** A cost without an object, by its (negative) ElementKey. */
  allowance: allowanceSchema,
  /** Where the lines stand in a list, by source. */
  listProfile: listProfileSchema,
  /** Where the prices stand in a price sheet, by the name of the sheet. */
  priceSheet: sheetProfileSchema,
  /** A saved takeoff table. */
  view: viewSchema,
  /** What the client wants to spend; its id says of what. */
  target: targetSchema,
  /** What somebody looked at and found right; its id says what. */
  checked: checkedSchema,
  /** An item that takes the place of another; its id is the section, if it is of one, and the item that goes. */
  swap: swapSchema,
  /** Figures set by hand in place of the model's, by ElementKey; by the name of the quantity. */
  given: givenSchema,
  /** What was said about an element that came under another id, by the ElementKey of its own. */
  identity: identitySchema,
  /** A frozen plan. */
  baseline: baselineSchema,
  /** A named alternative, and what it has otherwise; by the option and the entry. */
  option: optionSchema,
  difference: differenceSchema,
  /** What somebody noted on a line of the plan; its id is that of its work section and item. */
  note: noteSchema,
  /** A saved way to look at the plan, by its name. */
  planView: planViewSchema,
  order: z.array(z.string()),
  counting: z.strictObject({ revision: z.string() }),
} as const;

export type EntryKind = keyof typeof ENTRY_SCHEMAS;

/** Entries of a change that may be added, changed or removed at once. */
const MOST_ENTRIES = 200_000;

const entry = z.strictObject({ kind: z.string(), id: z.string().min(1).max(200), body: z.unknown() });

export const diffSchema = z.strictObject({
  added: z.array(entry).max(MOST_ENTRIES),
  updated: z
    .array(z.strictObject({ kind: z.string(), id: z.string(), from: z.unknown(), to: z.unknown() }))
    .max(MOST_ENTRIES),
  removed: z.array(entry).max(MOST_ENTRIES),
});
