import { Box, LinearProgress } from '@mui/material';
import { type ElementKind, type ExpectedSections, isClassOrSubtype } from '@tally/core';
import { type ReactNode, useMemo } from 'react';
import { useNavigate } from 'react-router';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useSelection } from '../../store/selection.tsx';
import { useElements } from '../../store/use-elements.ts';
import { useMappings } from '../../store/use-mappings.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { nameKind } from './decide-kind.ts';
import { ExpectedStrip } from './expected-strip.tsx';
import { countSections, NOTHING_DECIDED, type SectionCount } from './kind-states.ts';
import { useKinds } from './use-kinds.ts';

const NONE: readonly ExpectedSections[] = [];

interface MatrixRow {
  readonly kind: ElementKind;
  /** By work section. */
  readonly counts: ReadonlyMap<string, SectionCount>;
}

/** The whole building at once: kinds against the work sections, how many of each are priced there, and where one has a gap. */
export function KindMatrix({ choice }: { readonly choice: ReactNode }) {
  const { project } = useProjectState('project');
  const { sections, expected = NONE } = useBasis('sections', 'expected');
  const kinds = useKinds('type');
  const { models } = useElements();
  const mappings = useMappings();
  const { keys, select } = useSelection();
  const navigate = useNavigate();
  const rows = useMemo((): MatrixRow[] => {
    const counted = countSections(kinds ?? [], models, mappings);
    return (kinds ?? []).map((kind) => ({ kind, counts: counted.get(kind.id)! }));
  }, [kinds, models, mappings]);
  const used = useMemo(() => {
    const ids = new Set(rows.flatMap((r) => [...r.counts.keys()]));
    for (const e of expected) for (const id of e.sections) ids.add(id);
    return sections.filter((s) => ids.has(s.id));
  }, [rows, sections, expected]);
  const isExpected = (row: MatrixRow, section: string) =>
    expected.some((e) => e.sections.includes(section) && isClassOrSubtype(row.kind.ifcClass, e.ifcClass));
  const chosen = rows.find((r) => r.kind.keys.length === keys.size && r.kind.keys.every((k) => keys.has(k)));
  if (!kinds) return <LinearProgress />;
  const columns: TableColumn<MatrixRow>[] = [
    { key: 'kind', heading: 'Kind', width: 250, cell: ({ kind }) => nameKind(kind), text: ({ kind }) => nameKind(kind) },
    { key: 'count', heading: 'Elements', width: 76, isFigure: true, isFaint: true, cell: ({ kind }) => String(kind.keys.length) },
    ...used.map(
      ({ id, name }): TableColumn<MatrixRow> => ({
        key: `s/${id}`,
        heading: name,
        hint: name,
        width: 104,
        isFigure: true,
        cell: (row) => <Filled row={row} section={id} isExpected={isExpected(row, id)} />,
        text: (row) => tellFilled(row, id, isExpected(row, id)),
      }),
    ),
    {
      key: 'out',
      heading: 'Left out',
      width: 84,
      isFigure: true,
      isFaint: true,
      cell: ({ kind }) => (kind.counts.leftOut > 0 ? String(kind.counts.leftOut) : ''),
    },
  ]; // biome-ignore format: a column a line
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1 }}>
      <Box role="toolbar" aria-label="Mapping" sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
        {choice}
        <Box sx={{ color: 'text.secondary' }}>
          Elements priced in each section; marigold where some are not, or none though they are expected.
        </Box>
      </Box>
      <VirtualTable
        label="Kinds by section"
        keep={`${project.id}/matrix`}
        rows={rows}
        columns={columns}
        rowId={({ kind }) => kind.id}
        selectedId={chosen?.kind.id ?? null}
        onSelect={({ kind }) => select(kind.keys)}
        onOpen={({ kind }) =>
          navigate(`/projects/${project.id}/mapping?view=kinds&kind=${encodeURIComponent(kind.id)}`)
        }
        isMarked={({ kind }) => kind.counts.unpriced + kind.counts.partly > 0}
      />
      {chosen && <ExpectedStrip key={chosen.kind.ifcClass} ifcClass={chosen.kind.ifcClass} />}
    </Box>
  );
}

const countIn = ({ counts }: MatrixRow, section: string): SectionCount => counts.get(section) ?? NOTHING_DECIDED;

function tellFilled(row: MatrixRow, section: string, isExpected: boolean): string {
  const { priced, out } = countIn(row, section);
  if (priced === 0)
    return out > 0 ? 'out' : isExpected && row.kind.counts.leftOut < row.kind.keys.length ? 'missing' : '';
  return priced + out < row.kind.keys.length ? `${priced} of ${row.kind.keys.length}` : String(priced);
}

function Filled({
  row,
  section,
  isExpected,
}: {
  readonly row: MatrixRow;
  readonly section: string;
  readonly isExpected: boolean;
}) {
  const { priced, out } = countIn(row, section);
  const told = tellFilled(row, section, isExpected);
  const isPart = told === 'missing' || (priced > 0 && priced + out < row.kind.keys.length);
  return (
    <Box component="span" sx={isPart ? { bgcolor: 'tally.unpricedSoft', px: 0.5, borderRadius: 0.5 } : undefined}>
      {told}
    </Box>
  );
}
