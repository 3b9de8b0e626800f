import ArrowDownwardIcon from '@mui/icons-material/ArrowDownward';
import ArrowUpwardIcon from '@mui/icons-material/ArrowUpward';
import ContentCopyIcon from '@mui/icons-material/ContentCopy';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, IconButton, Switch, Tooltip } from '@mui/material';
import { describeCondition, type EntryDiff, type PricingRule, sayInWords } from '@tally/core';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useProjectState } from '../../api/project-context.tsx';
import { refusalOf, useChange } from '../../api/use-change.ts';
import { useShowStates } from '../../api/use-show-states.ts';
import { CompletenessBar } from '../../ui/completeness-bar.tsx';
import { Empty } from '../../ui/empty.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { RowOfCells } from '../../ui/row-of-cells.tsx';
import { RuleDialog } from './rule-dialog.tsx';

const DEFAULT_SECTION = { id: 'general', name: 'General' };

/** Rules in their order: what each catches, what it prices with; the first that catches an element in a section prices it. */
export function MappingPage() {
  const { project, basis, summary, orders } = useProjectState();
  const change = useChange(project.id);
  const [params, setParams] = useSearchParams();
  const [edited, setEdited] = useState<{ rule: PricingRule; isNew: boolean } | null>(null);
  const { rules, sections } = basis;
  const order = rules.map((r) => r.id);
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

  const reorder = (next: readonly string[]): Partial<EntryDiff> => {
    const entry = { kind: 'order', id: 'rules' };
    return orders.rules === null
      ? { added: [{ ...entry, body: next }] }
      : { updated: [{ ...entry, from: orders.rules, to: next }] };
  };
  const adding = (rule: PricingRule, after?: string) => {
    const at = after === undefined ? 0 : order.indexOf(after) + 1;
    const next = [...order.slice(0, at), rule.id, ...order.slice(at)];
    const { added = [], updated } = reorder(next);
    const section = { kind: 'section', id: DEFAULT_SECTION.id, body: DEFAULT_SECTION };
    return {
      cause: `Rule added: ${rule.name}`,
      diff: {
        added: [{ kind: 'rule', id: rule.id, body: rule }, ...(sections.length === 0 ? [section] : []), ...added],
        updated,
      },
    };
  };
  const updating = (from: PricingRule, to: PricingRule, cause: string) => ({
    cause,
    diff: { updated: [{ kind: 'rule', id: from.id, from, to }] },
  });
  const update = (from: PricingRule, to: PricingRule, cause: string) => change.mutate(updating(from, to, cause));
  const remove = (rule: PricingRule) =>
    change.mutate({
      cause: `Rule removed: ${rule.name}`,
      diff: {
        removed: [{ kind: 'rule', id: rule.id, body: rule }],
        ...reorder(order.filter((id) => id !== rule.id)),
      },
    });
  const move = (rule: PricingRule, by: -1 | 1) => {
    const at = order.indexOf(rule.id);
    const next = [...order];
    [next[at], next[at + by]] = [next[at + by]!, next[at]!];
    change.mutate({
      cause: `Rule moved ${by < 0 ? 'up' : 'down'}: ${rule.name}`,
      diff: reorder(next),
    });
  };
  const show = useShowStates();
  const fresh = (): PricingRule => ({
    id: `rule-${crypto.randomUUID().slice(0, 8)}`,
    name: '',
    scope: { field: 'class', op: 'is', value: 'IfcWall' },
    section: sections[0]?.id ?? DEFAULT_SECTION.id,
    assembly: '',
    driver: 'NetSideArea',
  });
  const save = async (rule: PricingRule): Promise<string | null> => {
    const before = rules.find((r) => r.id === rule.id);
    const isChanged = !before || JSON.stringify(before) !== JSON.stringify(rule);
    const made = !before ? adding(rule) : updating(before, rule, `Rule changed: ${rule.name}`);
    const refusal = isChanged ? await refusalOf(change.mutateAsync(made)) : null;
    if (refusal === null) setEdited(null);
    return refusal;
  };
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <CompletenessBar counts={summary.counts} onChoose={show} />
        </Box>
        <Button variant="contained" onClick={() => setEdited({ rule: fresh(), isNew: true })}>
          New rule
        </Button>
      </Box>
      {rules.length === 0 ? (
        <Empty title="No rules yet">
          <span>
            A rule says which elements are priced with what. Make the first, or apply a template under Sources.
          </span>
        </Empty>
      ) : (
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
              ...grid,
              position: 'sticky',
              top: 0,
              zIndex: 1,
              bgcolor: 'background.default',
              fontSize: 12,
              color: 'text.secondary',
              py: 0.75,
            }}
          >
            {['', 'Rule and what it catches', 'Priced with', 'Driver', 'Catches', 'Prices', ''].map((h, i) => (
              <Box
                key={`${h}${i === 0 ? 'on' : i}`}
                role="columnheader"
                sx={{ textAlign: i === 4 || i === 5 ? 'right' : 'left' }}
              >
                {h}
              </Box>
            ))}
          </Box>
          {rules.map((rule, i) => {
            const caught = summary.caught[rule.id] ?? 0;
            return (
              <RowOfCells
                key={rule.id}
                label={rule.name}
                sx={{
                  ...grid,
                  py: 0.5,
                  borderTop: 1,
                  borderColor: 'divider',
                  opacity: rule.isOff ? 0.55 : 1,
                  bgcolor: caught === 0 && !rule.isOff ? 'tally.unpricedSoft' : undefined,
                  '&:hover': { bgcolor: 'tally.petrolSoft' },
                }}
              >
                <Switch
                  size="small"
                  checked={!rule.isOff}
                  slotProps={{ input: { 'aria-label': `Rule ${rule.name} is on` } }}
                  onChange={(e) =>
                    update(
                      rule,
                      withOff(rule, !e.target.checked),
                      `Rule ${e.target.checked ? 'on' : 'off'}: ${rule.name}`,
                    )
                  }
                />
                <Box
                  component="button"
                  type="button"
                  onClick={() => setEdited({ rule, isNew: false })}
                  sx={{
                    all: 'unset',
                    display: 'block',
                    width: '100%',
                    cursor: 'pointer',
                    minWidth: 0,
                    '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
                  }}
                >
                  <Box sx={{ fontSize: 13.5, fontWeight: 600 }}>{rule.name}</Box>
                  <Box
                    sx={{
                      fontSize: 12,
                      color: 'text.secondary',
                      overflow: 'hidden',
                      textOverflow: 'ellipsis',
                      whiteSpace: 'nowrap',
                    }}
                    title={describeCondition(rule.scope)}
                  >
                    {sayInWords(describeCondition(rule.scope))}
                  </Box>
                </Box>
                <Box sx={{ fontSize: 13, minWidth: 0 }}>
                  <Box sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
                    {rule.leaveOut !== undefined
                      ? `Left out: ${rule.leaveOut}`
                      : (basis.assemblies.find((a) => a.code === rule.assembly)?.description ??
                        basis.items.find((it) => it.code === rule.item)?.description ??
                        `${rule.assembly ?? rule.item} is not in the book`)}
                  </Box>
                  <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{sectionName(rule.section)}</Box>
                </Box>
                <Box
                  sx={{
                    fontFamily: FIGURES,
                    fontSize: 12.5,
                    overflow: 'hidden',
                    textOverflow: 'ellipsis',
                    whiteSpace: 'nowrap',
                  }}
                  title={rule.driver}
                >
                  {rule.driver}
                </Box>
                <Box
                  sx={{ fontFamily: FIGURES, fontSize: 13, textAlign: 'right' }}
                  title={caught === 0 ? 'Catches nothing: a name may have changed' : ''}
                >
                  {caught}
                </Box>
                <Box sx={{ fontFamily: FIGURES, fontSize: 13, textAlign: 'right' }}>
                  {rule.leaveOut !== undefined ? '' : (summary.priced[rule.id] ?? 0)}
                </Box>
                <Box sx={{ display: 'flex', justifyContent: 'flex-end' }}>
                  <Act title="Earlier" isOff={i === 0} onClick={() => move(rule, -1)}>
                    <ArrowUpwardIcon sx={{ fontSize: 16 }} />
                  </Act>
                  <Act title="Later" isOff={i === rules.length - 1} onClick={() => move(rule, 1)}>
                    <ArrowDownwardIcon sx={{ fontSize: 16 }} />
                  </Act>
                  <Act
                    title="Duplicate"
                    onClick={() =>
                      change.mutate(
                        adding(
                          { ...rule, id: `rule-${crypto.randomUUID().slice(0, 8)}`, name: `${rule.name}, copy` },
                          rule.id,
                        ),
                      )
                    }
                  >
                    <ContentCopyIcon sx={{ fontSize: 16 }} />
                  </Act>
                  <Act title="Remove" onClick={() => remove(rule)}>
                    <DeleteOutlineIcon sx={{ fontSize: 16 }} />
                  </Act>
                </Box>
              </RowOfCells>
            );
          })}
        </Box>
      )}
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

const grid = {
  display: 'grid',
  gridTemplateColumns: '44px minmax(160px, 1.5fr) minmax(140px, 1fr) minmax(90px, 0.7fr) 58px 52px 116px',
  columnGap: 1,
  alignItems: 'center',
  px: 1,
  minWidth: 720,
} as const;

function withOff({ isOff: _, ...rule }: PricingRule, isOff: boolean): PricingRule {
  return isOff ? { ...rule, isOff } : rule;
}

function Act({
  title,
  isOff = false,
  onClick,
  children,
}: {
  readonly title: string;
  readonly isOff?: boolean;
  readonly onClick: () => void;
  readonly children: React.ReactNode;
}) {
  return (
    <Tooltip title={title}>
      <span>
        <IconButton aria-label={title} disabled={isOff} onClick={onClick} sx={{ p: 0.5 }}>
          {children}
        </IconButton>
      </span>
    </Tooltip>
  );
}
