import { Box, Chip } from '@mui/material';
import { amountToMinor, type ComparisonDto, ELEMENT_CHANGES, type ElementChange, type MoveCause } from '@tally/core';
import { useMemo } from 'react';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useSelection } from '../../store/selection.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showMove, widthOfMoney } from '../../ui/format.ts';
import { useKept } from '../../ui/kept-state.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { CAUSE_WORDS } from './cause-words.ts';
import { CHANGE_WORDS, sayChange } from './say-change.ts';
import { shareShownMoves } from './shown-moves.ts';

/** What a list of elements is limited to. */
type What = ElementChange['what'] | 'identified';

const isOf = (e: ElementChange, what: What): boolean => (what === 'identified' ? e.isIdentified : e.what === what);

/** What lists of elements show: all, or those that move money. */
const useOnlyMoney = (projectId: string) => useKept(`${projectId}/changes/only-money`, true);

/**
 * Elements that came, went, changed or cost something else, the most money first, in words that a builder uses. The column adds up to the move:
 * what no element moved, and what is not listed, stands below.
 */
export function ElementChanges({
  comparison,
  cause,
  chosen,
  onChoose,
}: {
  readonly comparison: ComparisonDto;
  /** Moves by one cause only; null for all. */
  readonly cause: MoveCause | null;
  readonly chosen: number | null;
  readonly onChoose: (key: number) => void;
}) {
  const { elements, counts, rest, surplus, move, minorDigits } = comparison;
  const { project } = useProjectState('project');
  const { settings } = useBasis('settings');
  const { select } = useSelection();
  const [kept, setWhat] = useKept<What | ''>(`${project.id}/changes/what`, '');
  const [isOnlyMoney, setOnlyMoney] = useOnlyMoney(project.id);
  const what = kept !== '' && counts[kept] > 0 ? kept : '';
  const amountOf = (e: ElementChange) => (cause ? e.causes[cause] : e.move);
  const minors = useMemo(() => shareShownMoves({ elements, move, rest, surplus }, cause), [elements, cause, move, rest, surplus]); // biome-ignore format: one line
  const asked = elements.filter((e) => (what === '' || isOf(e, what)) && (!cause || e.causes[cause] !== 0));
  const rows = isOnlyMoney ? asked.filter((e) => amountOf(e) !== 0 || e.isIdentified) : asked;
  const sum = rows.reduce((s, e) => s + minors.get(e.key)!, 0);
  const whole = cause ? move.causes[cause] : move.move;
  const columns: TableColumn<ElementChange>[] = [
    { key: 'label', heading: 'Element', width: 200, cell: (e) => e.label },
    {
      key: 'what',
      heading: 'What',
      width: 112,
      isFaint: true,
      cell: (e) => CHANGE_WORDS[e.isIdentified ? 'identified' : e.what],
    },
    {
      key: 'how',
      heading: 'How',
      width: 0,
      isFaint: true,
      cell: (e) => (
        <span title={sayChange(e, settings.units, true)} style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
          {sayChange(e, settings.units)}
        </span>
      ),
      text: (e) => sayChange(e, settings.units, true),
    },
    { key: 'storey', heading: 'Storey', width: 96, isFaint: true, cell: (e) => e.storey ?? '' },
    {
      key: 'move',
      heading: cause ? `Move by ${CAUSE_WORDS[cause].word.toLowerCase()}` : 'Move',
      width: widthOfMoney([...minors.values(), sum], minorDigits),
      isFigure: true,
      cell: (e) => showMove(minors.get(e.key)!, minorDigits),
    },
  ];
  const others = asked.length - rows.length;
  return (
    <>
      <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center', flexWrap: 'wrap' }} data-testid="changed-counts">
        {[...ELEMENT_CHANGES, 'identified' as const]
          .filter((w) => counts[w] > 0)
          .map((w) => (
            <Chip
              key={w}
              size="small"
              variant={what === w ? 'filled' : 'outlined'}
              color={what === w ? 'primary' : 'default'}
              label={`${CHANGE_WORDS[w]} ${counts[w]}`}
              onClick={() => setWhat(what === w ? '' : w)}
              aria-pressed={what === w}
            />
          ))}
        <Box sx={{ flex: 1 }} />
        {(others > 0 || !isOnlyMoney) && (
          <Chip
            size="small"
            variant="outlined"
            label={isOnlyMoney ? `${others} more that move no money` : 'Only what moves money'}
            onClick={() => setOnlyMoney(!isOnlyMoney)}
          />
        )}
      </Box>
      <VirtualTable
        label="Changed elements"
        rows={rows}
        columns={columns}
        rowId={(e) => String(e.key)}
        selectedId={chosen === null ? null : String(chosen)}
        onSelect={(e) => {
          select([e.key]);
          onChoose(e.key);
        }}
        footerCells={(c) =>
          c.key === 'label'
            ? `${rows.length} ${rows.length === 1 ? 'element' : 'elements'}`
            : c.key === 'move'
              ? showMove(sum, minorDigits)
              : ''
        }
      />
      {sum !== whole && <Rest label={sayRest(comparison, what !== '')} minor={whole - sum} minorDigits={minorDigits} />}
    </>
  );
}

/** Of what the rest of a move is. */
function sayRest({ surplus, rest }: ComparisonDto, isLimited: boolean): string {
  if (isLimited) return 'Of other elements';
  if (rest.count > 0) return `Of ${rest.count} elements that are not listed, and packs left over`;
  return amountToMinor(surplus) !== 0 ? 'No element’s: what whole packs leave over' : 'Of other elements';
}

function Rest({ label, minor, minorDigits }: { readonly label: string; readonly minor: number; readonly minorDigits: number }) {
  return (
    <Box sx={{ display: 'flex', justifyContent: 'space-between', fontSize: 13, color: 'text.secondary', px: 1 }}>
      <span>{label}</span>
      <Box component="span" sx={{ fontFamily: FIGURES }}>
        {showMove(minor, minorDigits)}
      </Box>
    </Box>
  );
} // biome-ignore format: one head
