import { Box } from '@mui/material';
import { sayInWords, type ToldDecision, type ToldSection } from '@tally/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useElementCost } from '../../store/queries.ts';
import { Section } from './sheet-section.tsx';

/** What decides about one element: section by section who has it, who else catches it and lost, and why it is not priced. */
export function DecisionSection({ elementKey }: { readonly elementKey: number }) {
  const { project } = useProjectState('project');
  const { data: cost } = useElementCost(project.id, elementKey);
  if (!cost || cost.key !== elementKey) return null;
  const told = cost.decisions.filter(
    (d) =>
      d.winner !== null || d.others.length > 0 || d.parts.length > 0 || (d.why && d.why.code !== 'nothing-catches'),
  );
  return (
    <Section title="Decided by" hint="Pins before decisions for the type, these before rules in their order">
      {told.length === 0 && <Box sx={{ fontSize: 13, color: 'text.secondary' }}>No rule and no pin catches it.</Box>}
      {told.map((decided) => (
        <SectionDecided key={decided.section} decided={decided} />
      ))}
    </Section>
  );
}

function SectionDecided({ decided }: { readonly decided: ToldSection }) {
  const { sections } = useBasis('sections');
  const [isOpen, setOpen] = useState(false);
  const { section, winner, others, why, parts } = decided;
  const losers = [...others, ...parts.flatMap((p) => p.others)];
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider', py: 0.5, fontSize: 13, '&:first-of-type': { borderTop: 0 } }}>
      <Box sx={{ color: 'text.secondary' }}>{sections.find((s) => s.id === section)?.name ?? section}</Box>
      {winner && <Decider decision={winner} />}
      {parts.map(({ part, winner: own }) =>
        own ? (
          <Box key={part}>
            {part}: <Decider decision={own} />
          </Box>
        ) : null,
      )}
      {why && (
        <Box sx={{ color: why.code === 'not-known' ? 'error.main' : 'text.primary' }}>{sayInWords(why.message)}</Box>
      )}
      {losers.length > 0 && (
        <Box
          component="button"
          type="button"
          aria-expanded={isOpen}
          onClick={() => setOpen(!isOpen)}
          sx={{ all: 'unset', cursor: 'pointer', color: 'primary.main', '&:focus-visible': { outline: 2 } }}
        >
          {losers.length === 1 ? 'Another catches it too' : `${losers.length} others catch it too`}
        </Box>
      )}
      {isOpen &&
        losers.map((other, i) => (
          <Box key={`${other.id}/${i}`} sx={{ pl: 1.5, fontSize: 12.5 }}>
            <Decider decision={other} />: {other.lost}
          </Box>
        ))}
    </Box>
  );
}

function Decider({ decision: { kind, id, name } }: { readonly decision: ToldDecision }) {
  const { project } = useProjectState('project');
  if (kind === 'pin' || kind === 'own') return <span>{name}</span>;
  return (
    <Box component={Link} to={`/projects/${project.id}/mapping?rule=${id}`} sx={{ color: 'primary.main' }}>
      {name}
    </Box>
  );
}
