import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import { Autocomplete, Box, Button, IconButton, MenuItem, Select, TextField } from '@mui/material';
import {
  CONDITION_FIELDS,
  type Condition,
  type ConditionField,
  type ConditionOperator,
  type ElementTable,
  FINISH_SURFACES,
  type FieldCondition,
  type FinishSurface,
  LAYER_FACTS,
  type NamedScope,
  nameFact,
  RELATED_FACTS,
  readText,
  readTextList,
  resolveScope,
  type SiUnit,
  textPoolOf,
} from '@tally/core';
import { useMemo } from 'react';
import { BoundField } from './bound-field.tsx';
import { ClassValue } from './class-value.tsx';

const FIELD_WORDS: Record<ConditionField, string> = {
  class: nameFact('class').word,
  type: nameFact('type').word,
  name: nameFact('name').word,
  tag: nameFact('tag').word,
  material: nameFact('material').word,
  layer: 'Layer',
  room: 'Room',
  storey: nameFact('storey').word,
  zone: nameFact('zone').word,
  code: nameFact('code').word,
  property: 'Property',
  quantity: 'Quantity',
  finish: 'Finish of a room',
  style: 'Surface style',
  globalId: nameFact('globalId').word,
  part: 'Part of a whole',
  whole: 'Whole with parts',
  host: 'What hosts it',
  source: 'Kind of source',
};
/** Fields that ask only whether there is something until one says what of it. */
const ASKED_FOR: readonly ConditionField[] = ['part', 'whole', 'host'];
const SOURCE_KINDS = ['model', 'list', 'hand', 'allowance'];
const OP_WORDS: Record<ConditionOperator, readonly [holds: string, not: string]> = {
  is: ['is', 'is not'],
  contains: ['contains', 'does not contain'],
  oneOf: ['is one of', 'is none of'],
  range: ['is between', 'is not between'],
  missing: ['is missing', 'is there'],
  present: ['is present', 'is absent'],
};
/** Negations that say what another test says. */
const NEEDLESS: readonly ConditionOperator[] = ['missing', 'present'];

type NamedCondition = Extract<Condition, { readonly named: string }>;

/** One row of the editor: a test or a named scope, or the opposite of it. */
export interface ConditionRow {
  readonly test: FieldCondition | NamedCondition;
  readonly isNot: boolean;
}

const isOne = (condition: Condition): condition is FieldCondition | NamedCondition =>
  'field' in condition || 'named' in condition;

function toRow(condition: Condition): ConditionRow | null {
  if (isOne(condition)) return { test: condition, isNot: false };
  return 'not' in condition && isOne(condition.not) ? { test: condition.not, isNot: true } : null;
}

const toCondition = ({ test, isNot }: ConditionRow): Condition => (isNot ? { not: test } : test);

/** The rows a simple scope is edited as; null for a nested one, which is edited as text. */
export function splitCondition(scope: Condition): { join: 'all' | 'any'; rows: ConditionRow[] } | null {
  const own = toRow(scope);
  if (own) return { join: 'all', rows: [own] };
  const [join, parts] =
    'all' in scope
      ? (['all', scope.all] as const)
      : 'any' in scope
        ? (['any', scope.any] as const)
        : (['all', null] as const);
  const rows = parts?.map(toRow) ?? [null];
  return rows.every((r) => r !== null) ? { join, rows } : null;
}

export function joinCondition(join: 'all' | 'any', rows: readonly ConditionRow[]): Condition {
  const conditions = rows.map(toCondition);
  if (conditions.length === 1) return conditions[0]!;
  return join === 'all' ? { all: conditions } : { any: conditions };
}

/** What catches elements like one: its class, type and materials; what does not matter is taken out by hand. */
export function listTestsLike(table: ElementTable, row: number): ConditionRow[] {
  const type = readText(table.typeName, row);
  const tests: FieldCondition[] = [
    { field: 'class', op: 'is', value: readText(table.ifcClass, row) ?? '' },
    ...(type === null ? [] : [{ field: 'type', op: 'is', value: type } as const]),
    ...readTextList(table.materials, row).map((value) => ({ field: 'material', op: 'is', value }) as const),
  ];
  return tests.map((test) => ({ test, isNot: false }));
}

/** Fields that figures stand in: of others no range catches anything. */
const FIGURE_FIELDS: readonly ConditionField[] = ['quantity', 'layer', 'property'];

/** A test of another field, asked as before where that can be asked of it; what was asked for is of the field before. */
export function askAnew({ op }: FieldCondition, field: ConditionField): FieldCondition {
  if (ASKED_FOR.includes(field)) return { field, op: 'present' };
  if (op === 'oneOf') return { field, op, values: [] };
  if (op === 'missing' || op === 'present' || (op === 'range' && FIGURE_FIELDS.includes(field))) return { field, op };
  return { field, op: op === 'range' ? 'is' : op, value: '' };
}

/** What may stand in a field, from the models at hand. */
function listValues(tables: readonly ElementTable[], field: ConditionField, of?: string): string[] {
  const texts = tables.flatMap((t): readonly string[] => {
    switch (field) {
      case 'style':
        return t.faces.style.pool;
      case 'finish':
        return t.finishes[(FINISH_SURFACES.find((f) => f === of) ?? 'floor') as FinishSurface].pool;
      case 'source':
        return SOURCE_KINDS;
      case 'layer':
        return of === 'function' ? (t.layers.function?.pool ?? []) : t.layers.material.pool;
      case 'part':
      case 'host':
        return of ? listValues([t], of as ConditionField) : [];
      case 'property':
        return t.properties.filter((p) => `${p.set}.${p.name}` === of).flatMap((p) => p.values.map(String));
      default:
        return textPoolOf(t, field) ?? [];
    }
  });
  return [...new Set(texts)].sort().slice(0, 500);
}

/** Edits a scope row by row: picked fields, picked or typed values, joined by all or any. */
export function ConditionEditor({
  scope,
  onChange,
  tables,
  sample,
  scopes = [],
}: {
  readonly scope: Condition;
  readonly onChange: (scope: Condition) => void;
  readonly tables: readonly ElementTable[];
  /** Element that is selected: a scope may be begun from what it is. */
  readonly sample?: { readonly table: ElementTable; readonly row: number } | null;
  /** Named scopes of the project, which a condition may be. */
  readonly scopes?: readonly NamedScope[];
}) {
  const split = splitCondition(scope);
  const names = useMemo(
    () => ({
      property: [...new Set(tables.flatMap((t) => t.properties.map((p) => `${p.set}.${p.name}`)))].sort(),
      quantity: [...new Set(tables.flatMap((t) => t.quantities.map((q) => q.name)))].sort(),
      finish: [...FINISH_SURFACES],
      layer: [...LAYER_FACTS],
      part: [...RELATED_FACTS],
      host: [...RELATED_FACTS],
    }),
    [tables],
  );
  /** What the bounds of a range are of. */
  const unitOf = ({ field, of }: FieldCondition): SiUnit | null =>
    field === 'layer'
      ? 'm'
      : field === 'quantity'
        ? (tables.flatMap((t) => t.quantities).find((q) => q.name === of)?.unit ?? null)
        : null;
  if (!split)
    return (
      <Box sx={{ fontSize: 13, color: 'text.secondary' }}>
        This scope joins conditions in several levels. It holds as it is; it can be exchanged for a simple one:{' '}
        <Button onClick={() => onChange({ field: 'class', op: 'is', value: 'IfcWall' })}>start anew</Button>
      </Box>
    );
  const { join, rows } = split;
  const set = (i: number, change: Partial<FieldCondition>) =>
    onChange(
      joinCondition(
        join,
        rows.map((r, n) => (n === i ? { ...r, test: { ...r.test, ...change } as FieldCondition } : r)),
      ),
    );
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {rows.length > 1 && (
        <Box sx={{ fontSize: 13, display: 'flex', gap: 1, alignItems: 'center' }}>
          Catches elements for which
          <Select
            value={join}
            onChange={(e) => onChange(joinCondition(e.target.value as 'all' | 'any', rows))}
            inputProps={{ 'aria-label': 'Joined by' }}
            sx={{ fontSize: 13 }}
          >
            <MenuItem value="all">all of these hold</MenuItem>
            <MenuItem value="any">any of these holds</MenuItem>
          </Select>
        </Box>
      )}
      {rows.map(({ test: row, isNot }, i) => {
        const put = (next: ConditionRow | null) =>
          onChange(
            joinCondition(join, next ? rows.map((r, n) => (n === i ? next : r)) : rows.filter((_, n) => n !== i)),
          );
        if ('named' in row)
          return (
            <NamedRow
              key={i}
              row={{ test: row, isNot }}
              scopes={scopes}
              onChange={put}
              onRemove={rows.length > 1 ? () => put(null) : null}
            />
          );
        const needsValue = row.op !== 'missing' && row.op !== 'present';
        const isNamed = row.field in names;
        return (
          <Box key={i} sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'center' }}>
            <Select
              value={row.field}
              onChange={(e) => put({ test: askAnew(row, e.target.value as ConditionField), isNot })}
              inputProps={{ 'aria-label': 'Field' }}
              sx={{ width: 124, fontSize: 13 }}
            >
              {CONDITION_FIELDS.map((f) => (
                <MenuItem key={f} value={f}>
                  {FIELD_WORDS[f]}
                </MenuItem>
              ))}
            </Select>
            {isNamed && (
              <Autocomplete
                freeSolo
                disableClearable
                options={names[row.field as keyof typeof names]}
                inputValue={row.of ?? ''}
                onInputChange={(_, of) => set(i, { of: of === '' ? undefined : of })}
                renderInput={(p) => <TextField {...p} placeholder={row.field === 'layer' ? 'material' : 'Which'} />}
                sx={{ width: 190 }}
              />
            )}
            <Select
              value={isNot ? `not ${row.op}` : row.op}
              onChange={(e) => {
                const op = e.target.value.replace('not ', '') as ConditionOperator;
                const changed = { test: { ...row, op }, isNot: e.target.value !== op };
                onChange(
                  joinCondition(
                    join,
                    rows.map((r, n) => (n === i ? changed : r)),
                  ),
                );
              }}
              inputProps={{ 'aria-label': 'Test' }}
              sx={{ width: 132, fontSize: 13 }}
            >
              {(Object.keys(OP_WORDS) as ConditionOperator[]).flatMap((op) => [
                <MenuItem key={op} value={op}>
                  {OP_WORDS[op][0]}
                </MenuItem>,
                ...(NEEDLESS.includes(op) && !(isNot && row.op === op)
                  ? []
                  : [
                      <MenuItem key={`not ${op}`} value={`not ${op}`}>
                        {OP_WORDS[op][1]}
                      </MenuItem>,
                    ]),
              ])}
            </Select>
            {needsValue && row.op === 'range' && (
              <>
                <BoundField word="from" unit={unitOf(row)} value={row.min} onChange={(min) => set(i, { min })} />
                <BoundField word="to" unit={unitOf(row)} value={row.max} onChange={(max) => set(i, { max })} />
              </>
            )}
            {needsValue && row.op === 'oneOf' && (
              <Autocomplete
                multiple
                freeSolo
                options={listValues(tables, row.field, row.of)}
                value={(row.values ?? []).map(String)}
                onChange={(_, values) => set(i, { values })}
                renderInput={(p) => <TextField {...p} placeholder="Values" />}
                sx={{ flex: 1, minWidth: 160 }}
              />
            )}
            {needsValue && row.field === 'class' && row.op === 'is' && (
              <ClassValue
                value={String(row.value ?? '')}
                options={listValues(tables, 'class')}
                onChange={(value) => set(i, { value })}
              />
            )}
            {needsValue && (row.op === 'contains' || (row.op === 'is' && row.field !== 'class')) && (
              <Autocomplete
                freeSolo
                disableClearable
                options={listValues(tables, row.field, row.of)}
                inputValue={String(row.value ?? '')}
                onInputChange={(_, value) => set(i, { value })}
                renderInput={(p) => <TextField {...p} placeholder="Value, * for any text" />}
                sx={{ flex: 1, minWidth: 160 }}
              />
            )}
            {rows.length > 1 && (
              <IconButton
                aria-label="Take this condition out"
                onClick={() =>
                  onChange(
                    joinCondition(
                      join,
                      rows.filter((_, n) => n !== i),
                    ),
                  )
                }
              >
                <CloseIcon fontSize="small" />
              </IconButton>
            )}
          </Box>
        );
      })}
      <Box>
        <Button
          startIcon={<AddIcon />}
          onClick={() =>
            onChange(
              joinCondition(join, [...rows, { test: { field: 'material', op: 'contains', value: '' }, isNot: false }]),
            )
          }
        >
          Add a condition
        </Button>
        {scopes.length > 0 && (
          <Button
            onClick={() =>
              onChange(
                joinCondition(join, [
                  ...rows,
                  { test: resolveScope({ named: scopes[0]!.id }, scopes) as NamedCondition, isNot: false },
                ]),
              )
            }
          >
            Add a named scope
          </Button>
        )}
        {sample && (
          <Button
            color="inherit"
            onClick={() => onChange(joinCondition('all', listTestsLike(sample.table, sample.row)))}
          >
            Like the selected element
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** A row that is a named scope, or its opposite. */
function NamedRow({
  row: { test, isNot },
  scopes,
  onChange,
  onRemove,
}: {
  readonly row: { readonly test: NamedCondition; readonly isNot: boolean };
  readonly scopes: readonly NamedScope[];
  readonly onChange: (row: ConditionRow) => void;
  /** Null for the only row. */
  readonly onRemove: (() => void) | null;
}) {
  const isGone = !scopes.some((s) => s.id === test.named);
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
      <Select
        value={isNot ? 'not' : 'in'}
        onChange={(e) => onChange({ test, isNot: e.target.value === 'not' })}
        inputProps={{ 'aria-label': 'Test' }}
        sx={{ width: 124, fontSize: 13 }}
      >
        <MenuItem value="in">Is one of</MenuItem>
        <MenuItem value="not">Is none of</MenuItem>
      </Select>
      <Select
        value={test.named}
        onChange={(e) => onChange({ test: resolveScope({ named: e.target.value }, scopes) as NamedCondition, isNot })}
        inputProps={{ 'aria-label': 'Named scope' }}
        error={isGone}
        sx={{ flex: 1, fontSize: 13 }}
      >
        {isGone && <MenuItem value={test.named}>A scope that there is no more</MenuItem>}
        {scopes.map((s) => (
          <MenuItem key={s.id} value={s.id}>
            {s.name}
          </MenuItem>
        ))}
      </Select>
      {onRemove && (
        <IconButton aria-label="Take this condition out" onClick={onRemove}>
          <CloseIcon fontSize="small" />
        </IconButton>
      )}
    </Box>
  );
}
