import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import ArrowDownwardIcon from '@mui/icons-material/ArrowDownward';
import ArrowUpwardIcon from '@mui/icons-material/ArrowUpward';
import ContentCopyIcon from '@mui/icons-material/ContentCopy';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import { Box, IconButton, Switch } from '@mui/material';
import { describeCondition, type PricingRule, sayInWords } from '@tally/core';
import { memo } from 'react';
import { FIGURES } from '../../ui/fonts.ts';
import { IconAct } from '../../ui/icon-act.tsx';
import { RowOfCells } from '../../ui/row-of-cells.tsx';
import { ABOUT_WORDS, ALSO_WORDS } from './part-words.ts';

/** What can be done with a rule in its row. */
export type RuleAct = 'open' | 'on' | 'off' | 'earlier' | 'later' | 'duplicate' | 'remove';

/** A rule: what it catches, what it prices with, how much of it. */
export const RuleRow = memo(function RuleRow({
  rule,
  pricedWith,
  section,
  caught,
  priced,
  isFirst,
  isLast,
  onAct,
}: {
  readonly rule: PricingRule;
  readonly pricedWith: string;
  readonly section: string;
  readonly caught: number;
  /** null for a rule that leaves out. */
  readonly priced: number | null;
  readonly isFirst: boolean;
  readonly isLast: boolean;
  readonly onAct: (what: RuleAct, rule: PricingRule) => void;
}) {
  const { setNodeRef, setActivatorNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: rule.id,
  });
  const scope = describeCondition(rule.scope);
  const isIdle = caught === 0;
  const isHidden = !isIdle && priced === 0;
  // One that was made for any building may catch nothing in this.
  const needsLook = (isIdle || isHidden) && !rule.isOff && !rule.mayBeIdle;
  return (
    <RowOfCells
      ref={setNodeRef}
      label={rule.name}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      sx={{
        ...RULE_GRID,
        py: 0.5,
        borderTop: 1,
        borderColor: 'divider',
        opacity: rule.isOff ? 0.55 : 1,
        position: 'relative',
        zIndex: isDragging ? 1 : 0,
        bgcolor: needsLook ? 'tally.unpricedSoft' : undefined,
        '&:hover': { bgcolor: 'tally.petrolSoft' },
      }}
    >
      <IconButton
        ref={setActivatorNodeRef}
        size="small"
        {...attributes}
        {...listeners}
        aria-label={`Move ${rule.name}`}
        sx={{ cursor: 'grab', p: 0.25, touchAction: 'none' }}
      >
        <DragIndicatorIcon sx={{ fontSize: 18, color: 'text.secondary' }} />
      </IconButton>
      <Switch
        size="small"
        checked={!rule.isOff}
        slotProps={{ input: { 'aria-label': `Rule ${rule.name} is on` } }}
        onChange={(e) => onAct(e.target.checked ? 'on' : 'off', rule)}
      />
      <Box component="button" type="button" onClick={() => onAct('open', rule)} sx={OPENER}>
        <Box sx={{ fontSize: 13.5, fontWeight: 600 }}>{rule.name}</Box>
        <Box sx={{ fontSize: 12, color: 'text.secondary', ...ONE_LINE }} title={scope}>
          {rule.about ? `${ABOUT_WORDS[rule.about]}: ` : ''}
          {sayInWords(scope)}
          {rule.also ? ` (also ${rule.also.map((a) => ALSO_WORDS[a]).join(' and ')})` : ''}
        </Box>
      </Box>
      <Box sx={{ fontSize: 13, minWidth: 0 }}>
        <Box sx={ONE_LINE}>{pricedWith}</Box>
        <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{section}</Box>
      </Box>
      <Box sx={{ fontFamily: FIGURES, fontSize: 12.5, ...ONE_LINE }} title={rule.driver}>
        {rule.driver}
      </Box>
      <Box sx={FIGURE} title={isIdle ? 'Catches nothing: a name may have changed' : undefined}>
        {caught}
      </Box>
      <Box
        sx={FIGURE}
        title={isHidden ? 'All that it catches is decided before it, or priced with its whole' : undefined}
      >
        {priced ?? ''}
      </Box>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end' }}>
        <IconAct word="Earlier" isOff={isFirst} onClick={() => onAct('earlier', rule)}>
          <ArrowUpwardIcon sx={ICON} />
        </IconAct>
        <IconAct word="Later" isOff={isLast} onClick={() => onAct('later', rule)}>
          <ArrowDownwardIcon sx={ICON} />
        </IconAct>
        <IconAct word="Duplicate" onClick={() => onAct('duplicate', rule)}>
          <ContentCopyIcon sx={ICON} />
        </IconAct>
        <IconAct word="Remove" onClick={() => onAct('remove', rule)}>
          <DeleteOutlineIcon sx={ICON} />
        </IconAct>
      </Box>
    </RowOfCells>
  );
});

export const RULE_GRID = {
  display: 'grid',
  gridTemplateColumns: '24px 44px minmax(160px, 1.5fr) minmax(140px, 1fr) minmax(90px, 0.7fr) 58px 52px 116px',
  columnGap: 1,
  alignItems: 'center',
  px: 1,
  minWidth: 720,
} as const;

const ONE_LINE = { overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' } as const;
const FIGURE = { fontFamily: FIGURES, fontSize: 13, textAlign: 'right' } as const;
const ICON = { fontSize: 16 } as const;
const OPENER = {
  all: 'unset',
  display: 'block',
  width: '100%',
  cursor: 'pointer',
  minWidth: 0,
  '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
} as const;
