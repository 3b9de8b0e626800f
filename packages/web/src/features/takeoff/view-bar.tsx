import {
  Autocomplete,
  Box,
  Button,
  Checkbox,
  createFilterOptions,
  FormControlLabel,
  MenuItem,
  Select,
  TextField,
} from '@mui/material';
import {
  type Condition,
  type ElementTable,
  TAKEOFF_ROWS,
  type TakeoffField,
  type TakeoffRowKind,
  type TakeoffView,
} from '@tally/core';
import { useBasis } from '../../store/project-store.tsx';
import { useSample } from '../../store/use-elements.ts';
import { ConditionEditor } from '../../ui/condition-editor.tsx';
import { showUnit } from '../../ui/format.ts';
import { SheetButton } from '../../ui/sheet-button.tsx';
import { UNIT_CHOICES } from './column-units.ts';
import { ONLY_WORDS } from './use-only-keys.ts';

const ROW_WORDS: Record<TakeoffRowKind, string> = {
  element: 'Elements',
  room: 'Rooms',
  finish: 'Room finishes',
  layer: 'Layers',
  opening: 'Openings',
  face: 'Faces',
  junction: 'Junctions',
  material: 'Materials',
  type: 'Types',
};
/** Fields are found by what people call them and by their names in IFC and in the file. */
const findFields = createFilterOptions<TakeoffField>({ stringify: (f) => `${f.heading} ${f.ifcName ?? ''} ${f.id}` });
const ANY: Condition = { field: 'class', op: 'is', value: 'IfcWall' };

/** What a takeoff table shows: rows, filter, columns, groups. */
export function ViewBar({
  view,
  onChange,
  fields,
  tables,
  limits,
}: {
  readonly view: TakeoffView;
  readonly onChange: (change: Partial<TakeoffView>) => void;
  readonly fields: readonly TakeoffField[];
  readonly tables: readonly ElementTable[];
  /** Names of the limits of the project. */
  readonly limits: readonly string[];
}) {
  const sample = useSample();
  const { scopes } = useBasis('scopes');
  const byId = (ids: readonly string[]) => ids.flatMap((id) => fields.find((f) => f.id === id) ?? []);
  // What nothing here has is not shown; it stays in the table for when it comes.
  const isLeftOut = (id: string) => !fields.some((f) => f.id === id);
  const shared = {
    multiple: true as const,
    disableCloseOnSelect: true,
    getOptionKey: (f: TakeoffField) => f.id,
    getOptionLabel: (f: TakeoffField) => f.heading,
    filterOptions: findFields,
    groupBy: (f: TakeoffField) =>
      f.id.startsWith('q:') ? 'Quantities' : f.id.startsWith('property:') ? 'Properties' : 'About it',
    isOptionEqualToValue: (a: TakeoffField, b: TakeoffField) => a.id === b.id,
  };
  const conditions =
    view.scope === null
      ? 0
      : 'all' in view.scope
        ? view.scope.all.length
        : 'any' in view.scope
          ? view.scope.any.length
          : 1;
  return (
    <>
      <Select
        value={view.row}
        onChange={(e) => onChange({ row: e.target.value as TakeoffRowKind })}
        inputProps={{ 'aria-label': 'Rows are' }}
        sx={{ fontSize: 13, minWidth: 104 }}
      >
        {TAKEOFF_ROWS.map((r) => (
          <MenuItem key={r} value={r}>
            {ROW_WORDS[r]}
          </MenuItem>
        ))}
      </Select>
      {(limits.length > 0 || view.within !== undefined) && (
        <Select
          value={view.within ?? ''}
          displayEmpty
          onChange={(e) => onChange({ within: e.target.value === '' ? undefined : e.target.value })}
          inputProps={{ 'aria-label': 'Within' }}
          sx={{ fontSize: 13, minWidth: 104 }}
        >
          <MenuItem value="">Whole building</MenuItem>
          {[...new Set([...limits, ...(view.within === undefined ? [] : [view.within])])].map((name) => (
            <MenuItem key={name} value={name}>
              Within {name}
            </MenuItem>
          ))}
        </Select>
      )}
      <SheetButton label="Filter" count={conditions + (view.only === undefined ? 0 : 1)}>
        <Select
          value={view.only ?? ''}
          displayEmpty
          onChange={(e) => onChange({ only: (e.target.value || undefined) as TakeoffView['only'] })}
          inputProps={{ 'aria-label': 'Only those' }}
          sx={{ fontSize: 13, mb: 1 }}
        >
          <MenuItem value="">Priced or not, new or not</MenuItem>
          {Object.entries(ONLY_WORDS).map(([id, words]) => (
            <MenuItem key={id} value={id}>
              {words}
            </MenuItem>
          ))}
        </Select>
        {view.scope === null ? (
          <Button onClick={() => onChange({ scope: ANY })}>Show only some rows</Button>
        ) : (
          <Box sx={{ display: 'grid', gap: 1 }}>
            <ConditionEditor
              scope={view.scope}
              scopes={scopes}
              tables={tables}
              sample={sample}
              onChange={(scope) => onChange({ scope })}
            />
            <Box>
              <Button color="inherit" onClick={() => onChange({ scope: null })}>
                Show every row
              </Button>
            </Box>
          </Box>
        )}
        {view.row === 'junction' && (
          <FormControlLabel
            control={
              <Checkbox
                size="small"
                checked={view.isAmong ?? false}
                onChange={(e) => onChange({ isAmong: e.target.checked || undefined })}
              />
            }
            label="Among these walls only"
            slotProps={{ typography: { sx: { fontSize: 13 }, noWrap: true } }}
            sx={{ mr: 0 }}
          />
        )}
      </SheetButton>
      <SheetButton label="Columns" count={view.columns.length}>
        <Box sx={{ display: 'grid', gap: 1.5 }}>
          <Autocomplete
            {...shared}
            options={fields}
            value={byId(view.columns.map((c) => c.field))}
            onChange={(_, chosen) =>
              onChange({
                columns: [
                  ...chosen.map((f) => view.columns.find((c) => c.field === f.id) ?? { field: f.id }),
                  ...view.columns.filter((c) => isLeftOut(c.field)),
                ],
              })
            }
            renderInput={(p) => <TextField {...p} label="Columns, in this order" />}
          />
          {view.columns.length > 0 && (
            <Box sx={{ display: 'grid', gap: 1, maxHeight: 320, overflow: 'auto', pt: 0.75 }}>
              {byId(view.columns.map((c) => c.field)).map((f) => (
                <ColumnFields
                  key={f.id}
                  field={f}
                  spec={view.columns.find((c) => c.field === f.id)!}
                  onChange={(spec) => onChange({ columns: view.columns.map((c) => (c.field === f.id ? spec : c)) })}
                />
              ))}
            </Box>
          )}
        </Box>
      </SheetButton>
      <SheetButton label="Groups" count={view.groups.length}>
        <Autocomplete
          {...shared}
          options={fields.filter((f) => f.unit === null)}
          value={byId(view.groups)}
          onChange={(_, chosen) =>
            onChange({ groups: [...chosen.map((f) => f.id), ...view.groups.filter(isLeftOut)].slice(0, 5) })
          }
          renderInput={(p) => <TextField {...p} label="Grouped by, outermost first" />}
        />
      </SheetButton>
      <FormControlLabel
        control={
          <Checkbox size="small" checked={view.isBundled} onChange={(e) => onChange({ isBundled: e.target.checked })} />
        }
        label="Bundle"
        slotProps={{ typography: { sx: { fontSize: 13 }, noWrap: true } }}
        sx={{ mr: 0 }}
      />
    </>
  );
}

const AS_PROJECT = 'as the project';

/** Heading, unit and decimals of one column. */
function ColumnFields({
  field,
  spec,
  onChange,
}: {
  readonly field: TakeoffField;
  readonly spec: TakeoffView['columns'][number];
  readonly onChange: (spec: TakeoffView['columns'][number]) => void;
}) {
  const set = (change: Partial<TakeoffView['columns'][number]>) =>
    onChange(JSON.parse(JSON.stringify({ ...spec, ...change })));
  const units = field.unit === null ? [] : (UNIT_CHOICES[field.unit] ?? []);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 136px 136px', gap: 1 }}>
      <TextField
        label={field.heading}
        placeholder="Heading as it is"
        value={spec.heading ?? ''}
        onChange={(e) => set({ heading: e.target.value || undefined })}
      />
      {units.length > 0 && (
        <TextField
          select
          label={`Unit of ${field.heading}`}
          value={spec.unit ?? AS_PROJECT}
          onChange={(e) => set({ unit: e.target.value === AS_PROJECT ? undefined : e.target.value })}
        >
          {[AS_PROJECT, ...units].map((u) => (
            <MenuItem key={u} value={u}>
              {showUnit(u)}
            </MenuItem>
          ))}
        </TextField>
      )}
      {field.unit !== null && (
        <TextField
          select
          label={`Decimals of ${field.heading}`}
          value={spec.digits ?? ''}
          onChange={(e) => set({ digits: e.target.value === '' ? undefined : Number(e.target.value) })}
          sx={{ gridColumn: 3 }}
        >
          <MenuItem value="">as usual</MenuItem>
          {[0, 1, 2, 3, 4].map((n) => (
            <MenuItem key={n} value={n}>
              {n}
            </MenuItem>
          ))}
        </TextField>
      )}
    </Box>
  );
}
