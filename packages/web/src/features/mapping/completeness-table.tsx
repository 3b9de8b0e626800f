import { Box, LinearProgress, MenuItem, Select } from '@mui/material';
import { COMPLETENESS_MEASURES, type CompletenessMeasure, type CompletenessRow, type CompletenessState, measureCompleteness, readText, sayClass, sharePriced } from '@tally/core'; // biome-ignore format: one module
import { type ReactNode, useMemo } from 'react';
import { usePageView } from '../../store/page-view.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useStates } from '../../store/queries.ts';
import { readStates } from '../../store/read-states.ts';
import { useSelection } from '../../store/selection.tsx';
import { useElements } from '../../store/use-elements.ts';
import { useShowStates } from '../../store/use-show-states.ts';
import { CompletenessBar } from '../../ui/completeness-bar.tsx';
import { showFigure, showSi } from '../../ui/format.ts';
import { STATE_WORDS } from '../../ui/state-mark.tsx';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';

const FIRST_VIEW = { by: 'class', measure: 'count' };
const MEASURE_WORDS: Readonly<Record<CompletenessMeasure, string>> = {
  count: 'by count',
  volume: 'by volume',
  sideArea: 'by side area',
};
const UNITS: Readonly<Record<CompletenessMeasure, string>> = { count: 'each', volume: 'm3', sideArea: 'm2' };
const SHOWN: readonly CompletenessState[] = ['priced', 'partly', 'unpriced', 'leftOut'];

const nameClass = (ifcClass: string): string => sayClass(ifcClass) ?? ifcClass;

const readMeasure = (row: CompletenessRow, measure: CompletenessMeasure) =>
  measure === 'count' ? row.counts : measure === 'volume' ? row.volumes : row.sideAreas;

/** How complete the plan is, class by class or storey by storey, by count, by volume or by side area; a press takes up what is open. */
export function CompletenessTable({ choice }: { readonly choice: ReactNode }) {
  const { project, summary } = useProjectState('project', 'summary');
  const { settings } = useBasis('settings');
  const { tables, isLoading } = useElements();
  const { data: states } = useStates(project.id);
  const { select } = useSelection();
  const show = useShowStates();
  const [view, changeView] = usePageView('completeness', FIRST_VIEW);
  const by = view.by === 'storey' ? 'storey' : 'class';
  const measure = COMPLETENESS_MEASURES.find((m) => m === view.measure) ?? 'count';
  const known = readStates(states);
  const rows = useMemo(() => measureCompleteness(tables, (key) => known.get(key), by, nameClass), [tables, known, by]);
  if (isLoading || !states) return <LinearProgress />;
  const nameOf = ({ group }: CompletenessRow) => group ?? `Without a ${by}`;
  const figure = (value: number) => {
    if (value === 0) return '';
    const { figure: text, unit } = showSi(value, UNITS[measure], settings.units);
    return measure === 'count' ? showFigure(value, 0) : `${text} ${unit}`;
  };
  const columns: TableColumn<CompletenessRow>[] = [
    { key: 'group', heading: by === 'class' ? 'Class' : 'Storey', width: 0, cell: nameOf, text: nameOf },
    ...SHOWN.map(
      (state): TableColumn<CompletenessRow> => ({
        key: state,
        heading: STATE_WORDS[state],
        width: 120,
        isFigure: true,
        isFaint: state === 'leftOut',
        cell: (row) => figure(readMeasure(row, measure)[state]),
      }),
    ),
    {
      key: 'share',
      heading: 'Priced',
      hint: 'Of what is to be priced',
      width: 90,
      isFigure: true,
      cell: (row) => {
        const share = sharePriced(readMeasure(row, measure));
        // Never rounded up to all.
        return share === null ? '–' : `${Math.floor(100 * share)} %`;
      },
    },
  ];
  const takeOpen = ({ group }: CompletenessRow) =>
    select(
      tables.flatMap((t) =>
        [...t.keys].filter((key, row) => {
          const text = readText(by === 'class' ? t.ifcClass : t.storey, row);
          if (t.origin || (by === 'class' && text !== null ? nameClass(text) : text) !== group) return false;
          return !t.excluded?.[row] && /unpriced|partly/.test(known.get(key)?.state ?? 'unpriced');
        }),
      ),
    );
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1 }}>
      <Box role="toolbar" aria-label="Mapping" sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
        {choice}
        <Select
          value={by}
          onChange={(e) => changeView({ by: e.target.value })}
          inputProps={{ 'aria-label': 'Rows are' }}
          sx={{ fontSize: 13 }}
        >
          <MenuItem value="class">by class</MenuItem>
          <MenuItem value="storey">by storey</MenuItem>
        </Select>
        <Select
          value={measure}
          onChange={(e) => changeView({ measure: e.target.value })}
          inputProps={{ 'aria-label': 'Measured' }}
          sx={{ fontSize: 13 }}
        >
          {COMPLETENESS_MEASURES.map((m) => (
            <MenuItem key={m} value={m}>
              {MEASURE_WORDS[m]}
            </MenuItem>
          ))}
        </Select>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <CompletenessBar counts={summary.counts} onChoose={show} />
        </Box>
      </Box>
      <VirtualTable
        label="Completeness"
        keep={`${project.id}/completeness`}
        rows={rows}
        columns={columns}
        rowId={({ group }) => group ?? ''}
        onSelect={takeOpen}
        isMarked={({ counts }) => counts.unpriced + counts.partly > 0}
      />
    </Box>
  );
}
