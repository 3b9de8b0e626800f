import { Box } from '@mui/material';
import type { ElementKind } from '@tally/core';
import { Link } from 'react-router';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showFigure } from '../../ui/format.ts';
import type { KindDecision } from './kind-states.ts';
import { PART_COUNT_WORDS } from './part-words.ts';

/** What decides about a kind already, section by section; each rule leads to its place. */
export function DecidedBy({
  kind,
  decisions,
}: {
  readonly kind: ElementKind;
  readonly decisions: readonly KindDecision[];
}) {
  const { project } = useProjectState('project');
  const { sections } = useBasis('sections');
  const sectionName = (id: string | null) =>
    sections.find((s) => s.id === id)?.name ?? (id === null ? 'Every section' : id);
  return (
    <Box
      component="ul"
      aria-label="Decided by"
      sx={{ m: 0, p: 0, listStyle: 'none', fontSize: 13, display: 'grid', gap: 0.25 }}
    >
      {decisions.map((d) => (
        <Box component="li" key={`${d.rule?.id ?? 'hand'}/${d.section}`} sx={{ display: 'flex', gap: 1 }}>
          <Box sx={{ fontFamily: FIGURES, minWidth: 64, color: 'text.secondary' }}>
            {showFigure(d.elements, 0)} of {showFigure(kind.keys.length, 0)}
          </Box>
          <Box sx={{ flex: 1 }}>
            {d.leaveOut === null ? sectionName(d.section) : `Left out: ${d.leaveOut}`}
            {d.about ? `, their ${PART_COUNT_WORDS[d.about]}` : ''}
            {d.rule ? ', by ' : ', by hand'}
            {d.rule && (
              <Box
                component={Link}
                to={`/projects/${project.id}/mapping?rule=${d.rule.id}`}
                sx={{ color: 'primary.main' }}
              >
                {d.rule.name}
              </Box>
            )}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
