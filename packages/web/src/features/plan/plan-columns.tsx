import { Box } from '@mui/material';
import { type HeldTarget, type PlanLine, type PlanSummaryDto, targetId } from '@tally/core';
import { alignQuantity, showFigure, showMinor, showSignificant, showUnit, widthOfMoney } from '../../ui/format.ts';
import { GroupLabel } from '../../ui/group-label.tsx';
import type { TableColumn } from '../../ui/virtual-table.tsx';
import { checkedOf, floorAreaOf, minorOfRow, type PlanTableRow } from './plan-table-rows.ts';

/** Waste of a line; elements of one item may have several. */
const showWaste = ({ wastePercent, open }: PlanLine): string =>
  open > 0 ? '' : wastePercent === null ? 'several' : wastePercent > 0 ? `${wastePercent} %` : '';

/** Rate of a line; elements of one item may have several. */
/** The rate of a line, or of how many it is. */
export const showLineRate = ({ rate, rates, open }: PlanLine, digits?: number): string =>
  open > 0
    ? ''
    : rates > 1
      ? `${rates} rates`
      : rate === null
        ? 'none'
        : digits === undefined
          ? showSignificant(rate)
          : showFigure(rate, digits);

const quantity = (value: number | null, unit: string, digits?: number) =>
  value === null || unit === '' ? '' : digits === undefined ? alignQuantity(value, unit) : showFigure(value, digits);

/** What is incomplete in a group. */
function noteOf(row: PlanTableRow & { kind: 'group' }): string | null {
  const { open, unknown } = row.group;
  const notes = [...(open > 0 ? [`${open} not priced`] : []), ...(unknown > 0 ? [`${unknown} unknown`] : [])];
  return notes.length > 0 ? notes.join(', ') : null;
}

export interface ColumnTerms {
  readonly summary: PlanSummaryDto;
  readonly targets: readonly HeldTarget[];
  readonly rows: readonly PlanTableRow[];
  readonly total: number;
  readonly closed: ReadonlySet<string>;
  readonly toggle: (id: string) => void;
  readonly notes: Readonly<Record<string, { readonly text: string }>>;
  readonly edit: (row: PlanTableRow, what: 'rate' | 'waste') => string | null;
  readonly save: (row: PlanTableRow, what: 'rate' | 'waste', text: string) => Promise<string | null> | string | null;
}

/** The columns of the plan. */
export function listPlanColumns({ summary,
  targets, rows, total, closed, toggle, notes, edit, save }: ColumnTerms): TableColumn<PlanTableRow>[] {
  const { minorDigits, currency, building } = summary;
  const held = new Map<string, HeldTarget>(targets.map((t) => [t.id, t]));
  const ofLine =
    (read: (line: PlanLine, digits?: number) => string) =>
    (row: PlanTableRow, digits?: number): string =>
      row.kind === 'line' ? read(row.line, digits) : '';
  const perArea = (row: PlanTableRow, digits = 2): string => {
    const [minor, area] = [minorOfRow(row), floorAreaOf(row.path, building)];
    return minor === null || area === null || area === 0 ? '' : showFigure(minor / 10 ** minorDigits / area, digits);
  };
  const share = (row: PlanTableRow): number => (total > 0 ? Math.max(0, (minorOfRow(row) ?? 0) / total) : 0);
  const targetOf = (row: PlanTableRow) =>
    row.kind === 'group' && row.path.length === 1 ? held.get(targetId(row.path[0]!)) : undefined;
  return [
    {
      key: 'label',
      heading: 'Item',
      width: 0,
      cell: (row) =>
        row.kind === 'group' ? (
          <GroupLabel label={row.group.label} note={noteOf(row)} isOpen={!closed.has(row.id)} onToggle={() => toggle(row.id)} />
        ) : (
          <LineLabel line={row.line} note={notes[`${row.line.section ?? ''}|${row.line.item}`]?.text} />
        ),
      text: (row) =>
        row.kind === 'group' ? row.group.label : [row.line.element, row.line.item, row.line.description].filter(Boolean).join(' '),
    },
    { key: 'net', hasDigits: true, heading: 'Net', width: 92, isFigure: true, cell: ofLine((l, digits) => quantity(l.net, l.unit, digits)) },
    { key: 'waste', heading: 'Waste', width: 56, isFigure: true, isFaint: true, cell: ofLine(showWaste), edit: (row) => edit(row, 'waste'), save: (row, text) => save(row, 'waste', text) },
    { key: 'buy', hasDigits: true, heading: 'To buy', width: 92, isFigure: true, cell: ofLine((l, digits) => quantity(l.toBuy, l.unit, digits)) },
    { key: 'unit', heading: 'Unit', width: 48, isFaint: true, cell: ofLine((l) => showUnit(l.unit)) },
    { key: 'rate', hasDigits: true, heading: 'Rate', width: 84, isFigure: true, cell: ofLine(showLineRate), edit: (row) => edit(row, 'rate'), save: (row, text) => save(row, 'rate', text) },
    {
      key: 'amount',
      heading: `Amount ${currency}`,
      width: widthOfMoney([total, ...rows.map((r) => minorOfRow(r) ?? 0)], minorDigits, 112),
      isFigure: true,
      cell: (row) => {
        const minor = minorOfRow(row);
        if (minor !== null) return showMinor(minor, minorDigits);
        return row.kind === 'line' && row.line.open > 0 ? 'not priced' : 'unknown';
      },
    },
    { key: 'perArea', hasDigits: true, heading: 'Per m²', hint: 'Cost per m² of floor area: of the storey where the row is in one, else of the building', width: 74, isFigure: true, isFaint: true, cell: perArea },
    { key: 'share', heading: 'Share', hint: 'Share of the total', width: 84, isFaint: true, cell: (row) => <ShareBar share={share(row)} />, text: (row) => `${(share(row) * 100).toFixed(1)} %` },
    ...(rows.some((row) => targetOf(row))
      ? [{
          key: 'target',
          heading: 'Left of target',
          width: 104,
          isFigure: true,
          cell: (row: PlanTableRow) => <Left target={targetOf(row)} digits={minorDigits} />,
          text: (row: PlanTableRow) => (targetOf(row)?.left === undefined ? '' : showMinor(targetOf(row)!.left ?? 0, minorDigits)),
        }]
      : []),
    { key: 'checked', heading: '✓', hint: 'Checked: looked at and found right, until it moves', width: 34, cell: (row) => <Tick state={checkedOf(row)} />, text: (row) => checkedOf(row) },
    { key: 'elements', heading: 'Elements', width: 68, isFigure: true, isFaint: true, cell: ofLine((l) => String(l.elements)) },
  ];
} // biome-ignore format: a column a line

function LineLabel({ line, note }: { readonly line: PlanLine; readonly note: string | undefined }) {
  const isOpen = line.open > 0;
  return (
    <Box title={note ?? line.problem ?? line.description} sx={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
      {line.element && (
        <Box component="span" sx={{ mr: 1 }}>
          {line.element}
        </Box>
      )}
      {!isOpen && (
        <Box component="span" sx={{ color: 'text.secondary', mr: 1 }}>
          {line.item}
        </Box>
      )}
      {isOpen
        ? line.element
          ? line.problem
          : line.description
        : line.description || (line.item === '' ? '' : line.problem)}
      {note && (
        <Box component="span" sx={{ color: 'text.secondary', ml: 1, fontStyle: 'italic' }}>
          {note}
        </Box>
      )}
    </Box>
  );
}

/** A share of the total as a quiet bar with its figure. */
export function ShareBar({ share }: { readonly share: number }) {
  if (share <= 0) return null;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 34px', gap: 0.5, alignItems: 'center', width: '100%' }}>
      <Box sx={{ height: 5, bgcolor: 'divider', borderRadius: 0.5, overflow: 'hidden' }}>
        <Box sx={{ height: 1, width: `${Math.min(100, share * 100)}%`, bgcolor: 'tally.priced' }} />
      </Box>
      <Box sx={{ textAlign: 'right', fontSize: 12 }}>{(share * 100).toFixed(1)}</Box>
    </Box>
  );
}

function Left({ target, digits }: { readonly target: HeldTarget | undefined; readonly digits: number }) {
  if (!target) return null;
  if (target.left === null) return <span title={target.problem ?? ''}>–</span>;
  return (
    <Box
      component="span"
      title={`Target ${showMinor(target.aim ?? 0, digits)}`}
      sx={{ color: target.left < 0 ? 'error.main' : undefined }}
    >
      {showMinor(target.left, digits)}
    </Box>
  );
}

/** Whether all, some or nothing of a row is checked; told apart by shape. */
function Tick({ state }: { readonly state: ReturnType<typeof checkedOf> }) {
  if (state === 'none') return null;
  return (
    <span role="img" aria-label={state === 'all' ? 'Checked' : 'Partly checked'}>
      {state === 'all' ? '✓' : '·'}
    </span>
  );
}
