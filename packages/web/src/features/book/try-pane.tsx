import { Autocomplete, Box, MenuItem, TextField } from '@mui/material';
import { amountToMinor, currencyToMinorDigits, type ExplainedStep, type TriedLine } from '@tally/core';
import { useState } from 'react';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useProjects } from '../../store/queries.ts';
import { useFormulaNames } from '../../store/use-elements.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { alignQuantity, editFigure, showMinor, showSignificant, showSiText, showUnit } from '../../ui/format.ts';
import { FormulaText } from '../../ui/formula-field.tsx';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import type { Trial } from './use-trial.ts';

/** The draft of an assembly worked out on an element: every line with net, waste, to buy, rate and amount. */
export function TryPane({ trial }: { readonly trial: Trial }) {
  const { project } = useProjectState('project');
  const basis = useBasis('settings');
  const { data: projects } = useProjects();
  const names = useFormulaNames();
  const digits = currencyToMinorDigits(basis.settings.currency);
  const { trials, element, setElement, driver, setDriver, problem, lines } = trial;
  const [selected, setSelected] = useState<string | null>(null);
  const rows = lines.map((line, i) => ({ ...line, id: String(i) }));
  const shown = rows.find((l) => l.id === selected);
  const known = lines.filter((l) => l.isPart);
  const total = known.reduce((sum, l) => sum + (l.amount ?? 0), 0);
  const missing = known.filter((l) => l.amount === null).length;
  const columns: TableColumn<TriedLine & { id: string }>[] = [
    { key: 'code', heading: 'Item', width: 92, cell: (l) => l.code },
    {
      key: 'description',
      heading: 'Description',
      width: 0,
      isFaint: true,
      cell: (l) =>
        !l.isPart
          ? 'Not here: its condition does not hold'
          : (l.problem?.message ?? (l.isShared ? `For this element alone: ${l.description}` : l.description)),
    },
    {
      key: 'net',
      heading: 'Net',
      width: 92,
      isFigure: true,
      cell: (l) => (l.net === null ? '' : alignQuantity(l.net, l.unit)),
    },
    {
      key: 'waste',
      heading: 'Waste %',
      width: 66,
      isFigure: true,
      cell: (l) => (l.net === null || l.wastePercent === 0 ? '' : editFigure(l.wastePercent)),
    },
    {
      key: 'toBuy',
      heading: 'To buy',
      width: 92,
      isFigure: true,
      cell: (l) => (l.toBuy === null ? '' : alignQuantity(l.toBuy, l.unit)),
    },
    { key: 'unit', heading: 'Unit', width: 52, isFaint: true, cell: (l) => showUnit(l.unit) },
    {
      key: 'rate',
      heading: 'Rate',
      width: 84,
      isFigure: true,
      cell: (l) => (l.rate === null ? '' : showSignificant(l.rate, 9)),
    },
    {
      key: 'amount',
      heading: `Amount ${basis.settings.currency}`,
      width: 104,
      isFigure: true,
      cell: (l) => (l.amount === null ? '' : showMinor(amountToMinor(l.amount), digits)),
    },
  ];
  return (
    <Box component="section" aria-label="Try it" sx={{ display: 'grid', gap: 1, gridTemplateRows: 'auto 190px' }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'start' }}>
        {projects && projects.length > 1 && (
          <TextField
            select
            label="Of"
            value={trial.projectId ?? project.id}
            onChange={(e) => trial.setProjectId(e.target.value === project.id ? null : e.target.value)}
            sx={{ width: 150 }}
          >
            {projects.map((p) => (
              <MenuItem key={p.id} value={p.id}>
                {p.id === project.id ? 'This project' : p.name}
              </MenuItem>
            ))}
          </TextField>
        )}
        <Autocomplete
          loading={trial.isLoading}
          noOptionsText="No elements there."
          options={trials}
          value={element}
          getOptionKey={(t) => `${t.table.keys[t.row]}/${t.label}`}
          getOptionLabel={(t) => t.label}
          isOptionEqualToValue={(a, b) => a.table === b.table && a.row === b.row}
          onChange={(_, next) => setElement(next)}
          renderInput={(p) => <TextField {...p} label="Try it on" />}
          sx={{ flex: 1.4 }}
        />
        {/* What it is tried on decides what stands in the driver: nothing is typed before it is there. */}
        <Box sx={{ flex: 1, visibility: trial.isLoading ? 'hidden' : undefined }}>
          <FormulaText
            label="With a driver of"
            value={driver}
            names={names}
            problem={problem}
            onChange={setDriver}
            figureOf={trial.figureOf}
          />
        </Box>
        <Box
          role="status"
          aria-label="Amount of the trial"
          sx={{ fontSize: 13, pt: 1, minWidth: 160, textAlign: 'right' }}
        >
          {showMinor(amountToMinor(total), digits)} {basis.settings.currency}
          <Box sx={{ color: 'text.secondary' }}>
            {missing > 0 ? `${missing} of ${known.length} lines unknown` : `${known.length} lines`}
            {trial.rule ? `, rule ${trial.rule.name}` : ''}
          </Box>
        </Box>
      </Box>
      <Box sx={{ minHeight: 0, display: 'flex', flexDirection: 'column', gap: 0.5 }}>
        {shown && (
          <Box
            role="note"
            aria-label={`How ${shown.code} is worked out`}
            sx={{ fontSize: 12.5, fontFamily: FIGURES, overflow: 'auto', maxHeight: 54, flexShrink: 0 }}
          >
            {shown.steps.map((step, i) => (
              <Box key={i}>{describeStep(step)}</Box>
            ))}
            {shown.problem && <Box sx={{ color: 'error.main' }}>{shown.problem.message}</Box>}
          </Box>
        )}
        <VirtualTable
          label="Lines tried"
          rows={rows}
          columns={columns}
          rowId={(l) => l.id}
          selectedId={selected}
          onSelect={(l) => setSelected(l.id)}
          isMarked={(l) => l.problem !== null}
        />
      </Box>
    </Box>
  );
}

/** A formula with its figures and what it gives; so many pieces of a length are a length. */
function describeStep({ lead, formula, figures, result, unit }: ExplainedStep): string {
  const plain = unit.replace('·each', '');
  const gives = showSiText(result, plain, 'metric');
  if (lead) return `${lead}: ${showUnit(figures)} = ${gives}`;
  const isName = /^[\p{L}\p{N}_]+$/u.test(formula);
  return isName || figures === formula ? `${formula} = ${gives}` : `${formula} = ${showUnit(figures)} = ${gives}`;
}
