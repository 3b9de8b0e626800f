import { Box } from '@mui/material';
import type { ExplainedLine, ExplainedQuantity, ExplainedStep } from '@tally/core';
import { nameQuantity } from '@tally/core';
import type { ReactNode } from 'react';
import { FIGURES } from './fonts.ts';
import { showFigure, showQuantity, showSignificant, showUnit } from './format.ts';
import { METHOD_WORDS } from './method-words.ts';

/** A step that only passes a quantity on says nothing new. */
const isWorkedOut = ({ lead, formula }: ExplainedStep) => lead !== undefined || /[^\p{L}\p{N}_\s]/u.test(formula);

/** Where a line can be changed, told by the page that shows it; what is not given is only text. */
export interface DerivedLinks {
  readonly rule?: (rule: string) => ReactNode;
  readonly item?: (code: string, text: string) => ReactNode;
  readonly quantity?: (quantity: ExplainedQuantity) => ReactNode;
}

/** How the amount of a line came about: what decided, quantities and where they come from, formula with names and with figures, waste, rate and its source. */
export function DerivedLine({
  line,
  section,
  links = {},
}: {
  readonly line: ExplainedLine;
  /** Name of its work section. */
  readonly section: string;
  readonly links?: DerivedLinks;
}) {
  const unit = showUnit(line.item?.unit ?? '');
  return (
    <Box sx={{ pb: 1, fontSize: 12.5, display: 'grid', gap: 0.25, '& b': { fontWeight: 600 } }}>
      {line.problem && (
        <Box sx={{ color: 'error.main' }}>
          {line.problem.message} {line.problem.remedy}
        </Box>
      )}
      <Box sx={{ color: 'text.secondary' }}>
        {section} · {line.reason}
        {line.part ? ` · ${line.part}` : ''} {line.rule && links.rule?.(line.rule)}
      </Box>
      {line.path.length > 0 && <Box>Through {line.path.join(' › ')}</Box>}
      {line.quantities.map((q) => (
        <Box key={q.name}>
          <span title={nameQuantity(q.name).hint}>{q.name}</span>{' '}
          <Fig>
            {showQuantity(q.value, q.unit)} {showUnit(q.unit)}
          </Fig>{' '}
          <Box component="span" sx={{ color: q.basis === 'given' ? 'warning.main' : 'text.secondary' }}>
            {q.basis}, {METHOD_WORDS[q.method]}
          </Box>{' '}
          {links.quantity?.(q)}
        </Box>
      ))}
      {line.steps.filter(isWorkedOut).map((s, i) => (
        <Box key={i}>
          {s.lead ? `${s.lead} ` : ''}
          {s.formula !== s.figures && (
            <Box component="span" sx={{ color: 'text.secondary' }}>
              {s.formula} ={' '}
            </Box>
          )}
          <Fig>{showUnit(s.figures)}</Fig> ={' '}
          <Fig>
            {showQuantity(s.result, s.unit)} {showUnit(s.unit === 'number' ? '' : s.unit)}
          </Fig>
        </Box>
      ))}
      {line.net !== null && (
        <Box>
          Net{' '}
          <Fig>
            {showQuantity(line.net, line.item?.unit ?? '')} {unit}
          </Fig>
          {line.wastePercent > 0 && (
            <>
              {' '}
              + {line.wastePercent} % waste ={' '}
              <Fig>
                {showQuantity(line.toBuy ?? 0, line.item?.unit ?? '')} {unit}
              </Fig>
            </>
          )}
        </Box>
      )}
      {line.rate !== null && (
        <Box>
          × rate <Fig>{showSignificant(line.rate, 9)}</Fig> per {unit}
          {line.rateSteps.length > 1 && ', the mean of'}
          {line.rateSteps
            .filter((s) => s.formula !== s.figures)
            .map((s) => (
              <span key={s.figures}>
                , {s.lead ? `${s.lead.toLowerCase()} ` : ''}
                {s.formula} = <Fig>{showUnit(s.figures)}</Fig>
                {line.rateSteps.length > 1 && (
                  <>
                    {' '}
                    = <Fig>{showSignificant(s.result, 9)}</Fig>
                  </>
                )}
              </span>
            ))}
          {line.rateFactors.length > 0 &&
            ` (${line.rateFactors.map((s) => `${s.name} × ${showFigure(s.factor, 4)}`).join(', ')})`}
          {line.item?.source ? `, ${line.item.source}` : ''}
          {line.item?.date ? `, ${line.item.date}` : ''} {links.item?.(line.code, 'Rate in the book')}
        </Box>
      )}
    </Box>
  );
}

function Fig({ children }: { readonly children: ReactNode }) {
  return (
    <Box component="span" sx={{ fontFamily: FIGURES }}>
      {children}
    </Box>
  );
}
