import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'; // biome-ignore format: one module
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { Box, Button } from '@mui/material';
import type { PricingRule } from '@tally/core';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { useShowStates } from '../../store/use-show-states.ts';
import { CompletenessBar } from '../../ui/completeness-bar.tsx';
import { Empty } from '../../ui/empty.tsx';
import { useLatest } from '../../ui/use-latest.ts';
import { addRule, changeRule, DEFAULT_SECTION, moveRule, moveRuleTo, newRuleId, removeRule } from './rule-changes.ts';
import { RuleDialog } from './rule-dialog.tsx';
import { RULE_GRID, type RuleAct, RuleRow } from './rule-row.tsx';
import { TemplateDialog } from './template-dialog.tsx';

/** Rules in their order: what each catches, what it prices with; the first that catches an element in a section prices it. */
export function RuleList({ choice }: { readonly choice: ReactNode }) {
  const { project, summary, orders } = useProjectState('project', 'summary', 'orders');
  const basis = useBasis('assemblies', 'items', 'rules', 'sections');
  const change = useCommit(project.id);
  const [params, setParams] = useSearchParams();
  const [edited, setEdited] = useState<{ rule: PricingRule; isNew: boolean } | null>(null);
  const [isTaking, setTaking] = useState(false);
  const { rules, sections } = basis;
  const state = { rules, sections, orders };
  const sectionName = (id: string | undefined) =>
    sections.find((s) => s.id === id)?.name ?? (id ? id : 'Every section');

  const wanted = params.get('rule');
  useEffect(() => {
    const rule = rules.find((r) => r.id === wanted);
    if (rule) {
      setEdited({ rule, isNew: false });
      setParams({}, { replace: true });
    }
  }, [wanted, rules, setParams]);

  const act = useLatest((what: RuleAct, rule: PricingRule) => {
    if (what === 'open') setEdited({ rule, isNew: false });
    else if (what === 'on' || what === 'off')
      change.mutate(changeRule(rule, withOff(rule, what === 'off'), `Rule ${what}: ${rule.name}`));
    else if (what === 'earlier') change.mutate(moveRule(state, rule, -1));
    else if (what === 'later') change.mutate(moveRule(state, rule, 1));
    else if (what === 'remove') change.mutate(removeRule(state, rule));
    else change.mutate(addRule(state, { ...rule, id: newRuleId(), name: `${rule.name}, copy` }, rule.id));
  });
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const drop = ({ active, over }: DragEndEvent) => {
    const rule = rules.find((r) => r.id === active.id);
    const to = rules.findIndex((r) => r.id === over?.id);
    if (rule && to >= 0 && rules[to] !== rule) change.mutate(moveRuleTo(state, rule, to));
  };
  const { assemblies, items } = basis;
  const described = useMemo(
    () => new Map([...items, ...assemblies].map((entry) => [entry.code, entry.description])),
    [assemblies, items],
  );
  const show = useShowStates();
  const fresh = (): PricingRule => ({
    id: newRuleId(),
    name: '',
    scope: { field: 'class', op: 'is', value: 'IfcWall' },
    section: sections[0]?.id ?? DEFAULT_SECTION.id,
    assembly: '',
    driver: 'NetSideArea',
  });
  const save = async (rule: PricingRule): Promise<string | null> => {
    const before = rules.find((r) => r.id === rule.id);
    const isChanged = !before || JSON.stringify(before) !== JSON.stringify(rule);
    const made = !before ? addRule(state, rule) : changeRule(before, rule);
    const refusal = isChanged ? await refusalOf(change.mutateAsync(made)) : null;
    if (refusal === null) setEdited(null);
    return refusal;
  };
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
        {choice}
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <CompletenessBar counts={summary.counts} onChoose={show} />
        </Box>
        <Button color="inherit" onClick={() => setTaking(true)}>
          Take a template
        </Button>
        <Button variant="contained" onClick={() => setEdited({ rule: fresh(), isNew: true })}>
          New rule
        </Button>
      </Box>
      {rules.length === 0 ? (
        <Empty title="No rules yet">
          <span>A rule says which elements are priced with what. Make the first, or take a template.</span>
        </Empty>
      ) : (
        // Around the table: what it says to those who do not see stands beside it.
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
          <Box
            role="table"
            aria-label="Rules"
            sx={{
              flex: 1,
              minHeight: 0,
              overflow: 'auto',
              bgcolor: 'background.paper',
              border: 1,
              borderColor: 'divider',
              borderRadius: 1,
            }}
          >
            <Box
              role="row"
              sx={{
                ...RULE_GRID,
                position: 'sticky',
                top: 0,
                zIndex: 1,
                bgcolor: 'background.default',
                fontSize: 12,
                color: 'text.secondary',
                py: 0.75,
              }}
            >
              {['', '', 'Rule and what it catches', 'Priced with', 'Driver', 'Catches', 'Prices', ''].map((h, i) => (
                <Box key={`${h}${i}`} role="columnheader" sx={{ textAlign: i === 5 || i === 6 ? 'right' : 'left' }}>
                  {h}
                </Box>
              ))}
            </Box>
            <SortableContext items={rules.map((r) => r.id)} strategy={verticalListSortingStrategy}>
              {rules.map((rule, i) => (
                <RuleRow
                  key={rule.id}
                  rule={rule}
                  pricedWith={
                    rule.leaveOut !== undefined
                      ? `Left out: ${rule.leaveOut}`
                      : (described.get(rule.assembly ?? rule.item ?? '') ??
                        `${rule.assembly ?? rule.item} is not in the book`)
                  }
                  section={sectionName(rule.section)}
                  caught={summary.caught[rule.id] ?? 0}
                  priced={rule.leaveOut !== undefined ? null : (summary.priced[rule.id] ?? 0)}
                  isFirst={i === 0}
                  isLast={i === rules.length - 1}
                  onAct={act}
                />
              ))}
            </SortableContext>
          </Box>
        </DndContext>
      )}
      {isTaking && <TemplateDialog onClose={() => setTaking(false)} />}
      {edited && (
        <RuleDialog
          rule={edited.rule}
          now={edited.isNew ? edited.rule : (rules.find((r) => r.id === edited.rule.id) ?? null)}
          isNew={edited.isNew}
          onSave={save}
          onClose={() => setEdited(null)}
        />
      )}
    </Box>
  );
}

function withOff({ isOff: _, ...rule }: PricingRule, isOff: boolean): PricingRule {
  return isOff ? { ...rule, isOff } : rule;
}
