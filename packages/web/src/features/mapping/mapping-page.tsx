import { ToggleButton, ToggleButtonGroup } from '@mui/material';
import { useSearchParams } from 'react-router';
import { usePageView } from '../../store/page-view.ts';
import { CodeList } from './code-list.tsx';
import { CompletenessTable } from './completeness-table.tsx';
import { KindDesk } from './kind-desk.tsx';
import { KindMatrix } from './kind-matrix.tsx';
import { RuleList } from './rule-list.tsx';

const FIRST_VIEW = { view: 'kinds' };

/** Mapping: decided kind by kind, as the list of rules, as kinds against work sections, by the codes of the designers, or by how complete it is. */
export function MappingPage() {
  const [{ view: asked }, changeView] = usePageView('mapping', FIRST_VIEW);
  const [params] = useSearchParams();
  // A link to a rule opens it in the list.
  const view = params.has('rule') ? 'rules' : /^(rules|matrix|codes|completeness)$/.test(asked) ? asked : 'kinds';
  const choice = (
    <ToggleButtonGroup
      exclusive
      size="small"
      aria-label="What the mapping shows"
      value={view}
      sx={{ flexShrink: 0, '& .MuiToggleButton-root': { whiteSpace: 'nowrap' } }}
      onChange={(_, next) => next && changeView({ view: next })}
    >
      <ToggleButton value="kinds">By kind</ToggleButton>
      <ToggleButton value="rules">Rules</ToggleButton>
      <ToggleButton value="matrix">Sections</ToggleButton>
      <ToggleButton value="codes">Codes</ToggleButton>
      <ToggleButton value="completeness">Complete</ToggleButton>
    </ToggleButtonGroup>
  );
  if (view === 'completeness') return <CompletenessTable choice={choice} />;
  if (view === 'codes') return <CodeList choice={choice} />;
  if (view === 'rules') return <RuleList choice={choice} />;
  return view === 'matrix' ? <KindMatrix choice={choice} /> : <KindDesk choice={choice} />;
}
