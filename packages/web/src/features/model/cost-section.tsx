import { Box, Link as MuiLink } from '@mui/material';
import { type ExplainedLine, readText } from '@tally/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useElementCost } from '../../store/queries.ts';
import { useElements } from '../../store/use-elements.ts';
import { DerivedLine } from '../../ui/derived-line.tsx';
import { showMinor } from '../../ui/format.ts';
import { STATE_WORDS, StateMark } from '../../ui/state-mark.tsx';
import { PriceForm } from './price-form.tsx';
import { figure, Section } from './sheet-section.tsx';

/** Cost of one element, each line opened to how it came about. */
export function CostSection({ elementKey, name }: { readonly elementKey: number; readonly name: string }) {
  const { project, money } = useProjectState('project', 'money');
  const basis = useBasis('sections');
  const { data: cost } = useElementCost(project.id, elementKey);
  const place = useElements().find(elementKey);
  const globalId = place && readText(place.model.table.identity, place.row);
  if (!cost || cost.key !== elementKey) return null;
  const sectionName = (id: string | null) => basis.sections.find((s) => s.id === id)?.name ?? id ?? '';
  return (
    <Section title="Cost">
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 0.5 }}>
        <StateMark state={cost.state} />
        <Box sx={{ fontSize: 13, flex: 1 }}>
          {STATE_WORDS[cost.state]}
          {cost.leftOut && cost.state === 'leftOut' ? `: ${cost.leftOut}` : ''}
        </Box>
        <Box data-testid="element-cost" sx={{ ...figure, fontSize: 15, fontWeight: 650 }}>
          {cost.lines.length === 0 ? '–' : showMinor(Math.round(cost.amount / 10_000), money.minorDigits)}
        </Box>
        <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{money.currency}</Box>
      </Box>
      {cost.openParts.length > 0 && (
        <Box sx={{ fontSize: 13, bgcolor: 'tally.unpricedSoft', borderRadius: 0.5, px: 1, py: 0.25, mb: 0.5 }}>
          Not decided: {cost.openParts.join(', ')}
        </Box>
      )}
      {cost.lines.map((line, i) => (
        <CostLine key={i} line={line} section={sectionName(line.section)} minorDigits={money.minorDigits} />
      ))}
      {globalId && (
        <MuiLink
          component={Link}
          to={`/projects/${project.id}/plan?view=lines&rows=cell&only=${encodeURIComponent(JSON.stringify({ field: 'globalId', op: 'is', value: globalId }))}`}
          sx={{ fontSize: 12.5 }}
        >
          Its lines in the plan
        </MuiLink>
      )}
      {cost.state === 'unpriced' && cost.lines.length === 0 && (
        <PriceForm key={elementKey} elementKey={elementKey} name={name} />
      )}
    </Section>
  );
}

/** One line of an element's cost; opened it shows how the amount came about. */
function CostLine({
  line,
  section,
  minorDigits,
}: {
  readonly line: ExplainedLine;
  readonly section: string;
  readonly minorDigits: number;
}) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider' }}>
      <Box
        component="button"
        type="button"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
        sx={{
          all: 'unset',
          display: 'grid',
          width: '100%',
          gridTemplateColumns: '1fr auto',
          gap: 1,
          py: 0.5,
          fontSize: 13,
          cursor: 'pointer',
          '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
        }}
      >
        <Box sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {line.item?.description || line.code}
        </Box>
        <Box sx={{ ...figure, color: line.amount === null ? 'error.main' : undefined }}>
          {line.amount === null ? 'unknown' : showMinor(Math.round(line.amount / 10_000), minorDigits)}
        </Box>
      </Box>
      {isOpen && <DerivedLine line={line} section={section} />}
    </Box>
  );
}
