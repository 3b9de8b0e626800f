import { ToggleButton, ToggleButtonGroup } from '@mui/material';
import { useSearchParams } from 'react-router';
import { usePageView } from '../../store/page-view.ts';
import { KindDesk } from './kind-desk.tsx';
import { KindMatrix } from './kind-matrix.tsx';
import { RuleList } from './rule-list.tsx';

const FIRST_VIEW = { view: 'kinds' };

/** Mapping: decided kind by kind, as the list of rules, or as kinds against work sections. */
export function MappingPage() {
  const [{ view: asked }, changeView] = usePageView('mapping', FIRST_VIEW);
  const [params] = useSearchParams();
  // A link to a rule opens it in the list.
  const view = params.has('rule') ? 'rules' : asked === 'rules' || asked === 'matrix' ? asked : 'kinds';
  const choice = (
    <ToggleButtonGroup
      exclusive
      size="small"
      aria-label="What the mapping shows"
      value={view}
      onChange={(_, next) => next && changeView({ view: next })}
    >
      <ToggleButton value="kinds">By kind</ToggleButton>
      <ToggleButton value="rules">Rules</ToggleButton>
      <ToggleButton value="matrix">Sections</ToggleButton>
    </ToggleButtonGroup>
  );
  if (view === 'rules') return <RuleList choice={choice} />;
  return view === 'matrix' ? <KindMatrix choice={choice} /> : <KindDesk choice={choice} />;
}
