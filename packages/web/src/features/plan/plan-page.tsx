import { ToggleButton, ToggleButtonGroup } from '@mui/material';
import { usePageView } from '../../store/page-view.ts';
import { AllowanceList } from './allowance-list.tsx';
import { CuttingPane } from './cutting-pane.tsx';
import { PlanLines } from './plan-lines.tsx';
import { PurchaseList } from './purchase-list.tsx';
import { TargetsPane } from './targets-pane.tsx';

const FIRST_VIEW = { view: 'lines' };
/** What the plan shows, and what that is called. */
const VIEWS = { lines: 'Lines', targets: 'Targets', purchases: 'Purchases', cutting: 'Cutting', allowances: 'Allowances' } as const; // biome-ignore format: one table
type View = keyof typeof VIEWS;

/** The plan: its priced lines, what they are held against, what is bought for them and how it is cut, the costs without an object. */
export function PlanPage() {
  const [{ view: asked }, changeView] = usePageView('plan', FIRST_VIEW);
  const view: View = Object.hasOwn(VIEWS, asked) ? (asked as View) : 'lines';
  const choice = (
    <ToggleButtonGroup
      exclusive
      size="small"
      aria-label="What the plan shows"
      value={view}
      onChange={(_, next) => next && changeView({ view: next })}
    >
      {(Object.keys(VIEWS) as View[]).map((v) => (
        <ToggleButton key={v} value={v}>
          {VIEWS[v]}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
  if (view === 'targets') return <TargetsPane choice={choice} />;
  if (view === 'purchases') return <PurchaseList choice={choice} />;
  if (view === 'cutting') return <CuttingPane choice={choice} />;
  if (view === 'allowances') return <AllowanceList choice={choice} />;
  return <PlanLines choice={choice} />;
}
