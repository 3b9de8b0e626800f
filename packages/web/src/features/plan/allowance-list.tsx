import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, IconButton, MenuItem, Select, TextField } from '@mui/material';
import {
  ALLOWANCE_MEASURES,
  type Allowance,
  amountToMinor,
  COMPLETENESS_STATES,
  ITEM_KINDS,
  type ItemKind,
} from '@tally/core';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import {
  addAllowance,
  changeAllowance,
  MEASURE_WORDS,
  readAllowanceFigure,
  removeAllowance,
  showAllowanceRate,
} from '../../store/change-allowance.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useStates } from '../../store/queries.ts';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { editFigure, showMinor } from '../../ui/format.ts';
import { RowOfCells } from '../../ui/row-of-cells.tsx';
import { PercentBaseButton } from './percent-base.tsx';

const COLUMNS =
  'minmax(92px, 0.6fr) minmax(120px, 2fr) minmax(98px, 0.8fr) 60px minmax(88px, 0.8fr) minmax(96px, 1fr) minmax(92px, 0.6fr) minmax(84px, 0.6fr) 28px';

/** Costs without an object: permits, a site cabin by the week, cleaning by floor area. They stand in the plan like elements. */
export function AllowanceList({ choice }: { readonly choice: ReactNode }) {
  const { project, layer, money } = useProjectState('project', 'layer', 'money');
  const change = useCommit(project.id);
  const { data: states } = useStates(project.id);
  const own = states?.find((s) => s.revisionId === 'allowances');
  const list = Object.entries(layer.allowances).sort(([, a], [, b]) =>
    a.code < b.code ? -1 : a.code > b.code ? 1 : 0,
  );
  const placeOf = (id: string) => own?.keys.indexOf(Number(id)) ?? -1;
  const amountOf = (id: string): string => {
    const at = placeOf(id);
    if (at < 0) return '';
    const isKnown = COMPLETENESS_STATES[own!.states[at]!] === 'priced';
    return isKnown ? showMinor(amountToMinor(own!.amounts[at]!), money.minorDigits) : 'unknown';
  };
  const unknown = own ? list.filter(([id]) => amountOf(id) === 'unknown').length : 0;
  const total = amountToMinor(list.reduce((sum, [id]) => sum + (placeOf(id) < 0 ? 0 : own!.amounts[placeOf(id)]!), 0));
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1 }}>
      <Box role="toolbar" aria-label="Plan" sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
        {choice}
        <Box sx={{ color: 'text.secondary', flex: 1 }}>
          Costs without an object. Without a rate of its own an allowance takes that of the book's item of its code.
        </Box>
        <Button variant="contained" onClick={() => change.mutate(addAllowance(layer.allowances))}>
          Add an allowance
        </Button>
      </Box>
      <Box
        sx={{
          flex: 1,
          minHeight: 0,
          overflow: 'auto',
          bgcolor: 'background.paper',
          border: 1,
          borderColor: 'divider',
          borderRadius: 1,
        }}
      >
        <Box role="table" aria-label="Allowances" sx={{ minWidth: 760 }}>
          <Box
            role="row"
            sx={{
              display: 'grid',
              gridTemplateColumns: COLUMNS,
              gap: 0.5,
              px: 1,
              py: 0.75,
              borderBottom: 1,
              borderColor: 'divider',
              fontSize: 12,
              color: 'text.secondary',
              position: 'sticky',
              top: 0,
              bgcolor: 'background.paper',
              zIndex: 1,
            }}
          >
            {[
              'Code',
              'Name',
              'Goes by',
              'How many',
              'Kind of cost',
              'Work section',
              'Rate',
              `Amount ${money.currency}`,
              '',
            ].map((h) => (
              <Box key={h} role="columnheader" sx={{ textAlign: /^(How|Rate|Amount)/.test(h) ? 'right' : 'left' }}>
                {h}
              </Box>
            ))}
          </Box>
          {list.map(([id, allowance]) => (
            <Row key={id} id={id} allowance={allowance} amount={amountOf(id)} />
          ))}
          {list.length === 0 && (
            <Box sx={{ p: 2, fontSize: 13, color: 'text.secondary' }}>
              None yet. Permits, surveys, a site cabin by the week, final cleaning by floor area belong here.
            </Box>
          )}
        </Box>
      </Box>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', px: 1, fontWeight: 650 }}>
        <span>
          Allowances together
          {unknown > 0 && (
            <Box component="span" sx={{ fontWeight: 400 }}>
              {' '}
              so far, {unknown} unknown
            </Box>
          )}
        </span>
        <Box component="span" data-testid="allowance-total" sx={{ fontFamily: FIGURES, pr: '52px' }}>
          {own || list.length === 0 ? showMinor(list.length === 0 ? 0 : total, money.minorDigits) : ''}
        </Box>
      </Box>
    </Box>
  );
}

function Row({
  id,
  allowance: a,
  amount,
}: {
  readonly id: string;
  readonly allowance: Allowance;
  readonly amount: string;
}) {
  const { project, layer } = useProjectState('project', 'layer');
  const basis = useBasis('sections', 'settings');
  const change = useCommit(project.id);
  /** What the row is by now, with what is on its way: cells that are left one after the other follow each other. */
  const latest = useRef(a);
  const last = useRef<Promise<unknown>>(Promise.resolve());
  const open = useRef(0);
  useEffect(() => {
    if (open.current === 0) latest.current = a;
  }, [a]);
  const keep = (part: Partial<Allowance>): Promise<string | null> => {
    open.current++;
    const done = last.current.then(async () => {
      const made = changeAllowance(id, latest.current, part);
      if (typeof made === 'string') return made;
      const refused = await refusalOf(change.mutateAsync(made));
      if (refused === null) latest.current = made.to;
      return refused;
    });
    last.current = done;
    return done.finally(() => {
      open.current--;
    });
  };
  const units = (basis.settings.functionalUnits ?? []).map((u) => u.name);
  const percents = Object.values(layer.allowances).flatMap((x) => (x.measure === 'percent' ? [x.code] : []));
  const isCounted = a.measure === 'units';
  const select = {
    fontSize: 13,
    width: '100%',
    '& .MuiSelect-select': { py: 0.5, pl: 1, pr: '20px !important' },
    '& .MuiSelect-icon': { right: 0 },
  } as const;
  return (
    <RowOfCells
      label={a.name}
      sx={{
        display: 'grid',
        gridTemplateColumns: COLUMNS,
        gap: 0.5,
        px: 1,
        py: 0.25,
        borderBottom: 1,
        borderColor: 'divider',
        alignItems: 'center',
        bgcolor: amount === 'unknown' ? 'tally.unpricedSoft' : undefined,
      }}
    >
      <Cell label={`Code of ${a.name}`} text={a.code} onKeep={(code) => keep({ code })} />
      <Cell label={`Name of ${a.code}`} text={a.name} onKeep={(name) => keep({ name })} />
      <Select
        value={a.measure}
        inputProps={{ 'aria-label': `${a.name} goes by` }}
        onChange={(e) =>
          void keep({
            measure: e.target.value,
            ...(e.target.value === 'units' ? { counted: a.counted ?? units[0] } : {}),
          })
        }
        sx={select}
      >
        {ALLOWANCE_MEASURES.filter((m) => m !== 'units' || units.length > 0 || isCounted).map((m) => (
          <MenuItem key={m} value={m}>
            {MEASURE_WORDS[m]}
          </MenuItem>
        ))}
      </Select>
      {isCounted ? (
        <Select
          value={units.includes(a.counted ?? '') ? a.counted : ''}
          displayEmpty
          inputProps={{ 'aria-label': `Unit of ${a.name}` }}
          onChange={(e) => void keep({ counted: e.target.value })}
          sx={select}
        >
          {units.map((u) => (
            <MenuItem key={u} value={u}>
              {u}
            </MenuItem>
          ))}
        </Select>
      ) : (
        <Cell
          label={`How many of ${a.name}`}
          text={a.amount === undefined ? (a.measure === 'percent' ? '' : '1') : editFigure(String(a.amount))}
          placeholder={a.measure === 'percent' ? 'per cent' : undefined}
          isFigure
          onKeep={async (text) => {
            const read = readAllowanceFigure(text);
            return typeof read === 'string'
              ? read
              : keep({ amount: read.value === '' ? undefined : Number(read.value) });
          }}
        />
      )}
      <Select
        value={a.kind ?? 'fee'}
        inputProps={{ 'aria-label': `Kind of ${a.name}` }}
        onChange={(e) => void keep({ kind: e.target.value as ItemKind })}
        sx={select}
      >
        {ITEM_KINDS.map((k) => (
          <MenuItem key={k} value={k}>
            {k}
          </MenuItem>
        ))}
      </Select>
      <Select
        value={a.section ?? ''}
        displayEmpty
        inputProps={{ 'aria-label': `Section of ${a.name}` }}
        onChange={(e) => void keep({ section: e.target.value === '' ? undefined : e.target.value })}
        sx={select}
      >
        <MenuItem value="">Allowances</MenuItem>
        {basis.sections.map((s) => (
          <MenuItem key={s.id} value={s.id}>
            {s.name}
          </MenuItem>
        ))}
      </Select>
      {a.measure === 'percent' ? (
        <PercentBaseButton
          allowance={a}
          others={percents.filter((c) => c !== a.code)}
          onKeep={(of) => void keep({ of })}
        />
      ) : (
        <Cell
          label={`Rate of ${a.name}`}
          text={showAllowanceRate(a)}
          placeholder="of the book"
          isFigure
          onKeep={async (text) => {
            const read = readAllowanceFigure(text);
            return typeof read === 'string' ? read : keep({ rate: read.value === '' ? undefined : read.value });
          }}
        />
      )}
      <Box sx={{ fontFamily: FIGURES, fontSize: 12.5, textAlign: 'right' }}>{amount}</Box>
      <IconButton size="small" aria-label={`Remove ${a.name}`} onClick={() => change.mutate(removeAllowance(id, a))}>
        <DeleteOutlineIcon sx={{ fontSize: 18 }} />
      </IconButton>
    </RowOfCells>
  );
}

/** A text that is kept when it is left or Enter is pressed. One that is refused stays as it was typed, with the reason. */
function Cell({
  label,
  text,
  placeholder,
  isFigure,
  onKeep,
}: {
  readonly label: string;
  readonly text: string;
  readonly placeholder?: string;
  readonly isFigure?: boolean;
  readonly onKeep: (text: string) => Promise<string | null>;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  /** The text that is being kept: Enter and then leaving keep it once. */
  const saving = useRef<string | null>(null);
  const keep = async () => {
    if (typed === null || saving.current === typed) return;
    if (typed === text) {
      setProblem(null);
      return setTyped(null);
    }
    saving.current = typed;
    const refused = await onKeep(typed);
    saving.current = null;
    setProblem(refused);
    // What was typed on meanwhile stays.
    if (refused === null) setTyped((now) => (now === typed ? null : now));
  };
  return (
    <TextField
      fullWidth
      value={typed ?? text}
      placeholder={placeholder}
      error={problem !== null}
      helperText={problem}
      sx={{
        position: 'relative',
        '& .MuiFormHelperText-root': {
          position: 'absolute',
          top: '100%',
          right: 0,
          zIndex: 2,
          m: 0,
          px: 1,
          py: 0.5,
          width: 280,
          bgcolor: 'background.paper',
          border: 1,
          borderColor: 'error.main',
          borderRadius: 1,
        },
      }}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={() => void keep()}
      onKeyDown={(e) => {
        if (e.key === 'Enter') void keep();
        if (e.key === 'Escape') {
          setTyped(null);
          setProblem(null);
        }
      }}
      slotProps={{
        htmlInput: {
          'aria-label': label,
          style: { padding: '4px 8px', fontSize: 13, ...(isFigure ? { textAlign: 'right', fontFamily: FIGURES } : {}) },
        },
      }}
    />
  );
}
