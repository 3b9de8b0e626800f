import { Box, Button } from '@mui/material';
import {
  type ElementTable,
  findLimit,
  foldText,
  listTakeoffFields,
  nameQuantity,
  TAKEOFF_ROWS,
  type TakeoffField,
  type TakeoffView,
} from '@tally/core';
import type { ReactNode } from 'react';
import { READY_VIEWS } from './ready-views.ts';

const QUANTITY = 'q:';
const PROPERTY = 'property:';

/** What tables that come with the application ask for: no model has all of it, and nobody misses it. */
const READY = new Set(READY_VIEWS.flatMap((v) => [...v.columns.map((c) => c.field), ...v.groups]));

/** Columns and groups that somebody chose and nothing here has, by id: a model of another designer may lack what they ask for. */
function listLeftOut(view: TakeoffView, fields: readonly TakeoffField[]): string[] {
  const known = new Set([...READY, ...fields.map((f) => f.id)]);
  return [...new Set([...view.columns.map((c) => c.field), ...view.groups])].filter((id) => !known.has(id));
}

/** What a field is called that no table here has. */
function sayField(id: string, view: TakeoffView): string {
  const own = view.columns.find((c) => c.field === id)?.heading;
  if (own) return own;
  if (id.startsWith(QUANTITY)) return nameQuantity(id.slice(QUANTITY.length)).word;
  if (id.startsWith(PROPERTY)) return id.slice(id.lastIndexOf('.') + 1);
  for (const row of TAKEOFF_ROWS) {
    const field = listTakeoffFields([], row).find((f) => f.id === id);
    if (field) return field.heading;
  }
  return id;
}

/** Says what a takeoff table was made to show and does not: columns and groups that nothing here has, a limit that is gone or not measured yet. */
export function LeftOut({
  view,
  fields,
  tables,
  limits,
  onChange,
}: {
  readonly view: TakeoffView;
  readonly fields: readonly TakeoffField[];
  readonly tables: readonly ElementTable[];
  /** Names of the limits of the project. */
  readonly limits: readonly string[];
  readonly onChange: (change: Partial<TakeoffView>) => void;
}) {
  const missing = listLeftOut(view, fields);
  const { within } = view;
  const isGone = within !== undefined && !limits.some((name) => foldText(name) === foldText(within));
  const isBeingMeasured = within !== undefined && !isGone && !tables.some((table) => findLimit(table, within));
  return (
    <>
      {missing.length > 0 && (
        <Notice
          action="Take them out of the table"
          onAct={() =>
            onChange({
              columns: view.columns.filter((c) => !missing.includes(c.field)),
              groups: view.groups.filter((id) => !missing.includes(id)),
            })
          }
        >
          Not shown, since nothing in this table has it: {missing.map((id) => sayField(id, view)).join(', ')}.
        </Notice>
      )}
      {isGone && (
        <Notice action="Whole building" onAct={() => onChange({ within: undefined })}>
          There is no limit called {within} any more: figures within it are not known.
        </Notice>
      )}
      {isBeingMeasured && <Notice>Figures within {within} are being measured.</Notice>}
    </>
  );
}

function Notice({
  action,
  onAct,
  children,
}: {
  readonly action?: string;
  readonly onAct?: () => void;
  readonly children: ReactNode;
}) {
  return (
    <Box
      role="status"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        px: 1,
        py: 0.25,
        fontSize: 13,
        bgcolor: 'tally.unpricedSoft',
        borderRadius: 0.5,
      }}
    >
      <Box sx={{ flex: 1 }}>{children}</Box>
      {action && (
        <Button color="inherit" onClick={onAct}>
          {action}
        </Button>
      )}
    </Box>
  );
}
