import ExpandMoreIcon from '@mui/icons-material/ExpandMore';
import { Box, Button, IconButton, LinearProgress, TextField, Typography } from '@mui/material';
import { amountToMinor, appendToList, type Finding, type FindingCode, sayInWords, sumOpenStake } from '@tally/core';
import { useMemo, useState } from 'react';
import { type ShownLine, useFindingLines } from '../../store/finding-lines.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useSelectionAmount } from '../../store/queries.ts';
import { useSelection } from '../../store/selection.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useSelectElements, useShowElements } from '../../store/use-show-elements.ts';
import { Empty } from '../../ui/empty.tsx';
import { FINDING_REMEDIES, FINDING_WORDS } from '../../ui/finding-words.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showMinor } from '../../ui/format.ts';
import { PictureButton, PicturePane } from '../../ui/picture-pane.tsx';
import { CorrectionList } from './correction-list.tsx';
import { listSettlings } from './settle-double.ts';

const RANK = { error: 0, warning: 1, notice: 2 } as const;

/** What the checks of the models found, by kind and cause; each leads to its elements and can be accepted with a reason. */
export function FindingsPage() {
  const { project, layer, money } = useProjectState('project', 'layer', 'money');
  const { lines, left } = useFindingLines();
  const { keys } = useSelection();
  const groups = useMemo(() => {
    const byCode = new Map<FindingCode, ShownLine[]>();
    for (const line of lines ?? []) appendToList(byCode, line.code, line);
    const rank = (lines: readonly ShownLine[]) =>
      Math.min(...lines.flatMap((l) => l.shown.map((f) => (f.accepted === null ? RANK[f.finding.severity] : 3))));
    const stakeOf = (lines: readonly ShownLine[]) => sumOpenStake(lines.flatMap((l) => l.shown));
    return [...byCode].sort(([, a], [, b]) => rank(a) - rank(b) || stakeOf(b) - stakeOf(a));
  }, [lines]);
  /** Elements that something is wrong with, as far as nobody has accepted it: what they cost is what one cannot be sure of. */
  const doubtful = useMemo(
    () =>
      new Set(
        (lines ?? []).flatMap((l) =>
          l.shown.flatMap((f) =>
            f.accepted === null && f.finding.severity !== 'notice' ? (f.finding.keys ?? []) : [],
          ),
        ),
      ),
    [lines],
  );
  const { data: stake, isPlaceholderData } = useSelectionAmount(project.id, doubtful);
  const hasCorrections = Object.keys(layer.facts).length > 0;
  if (!lines) return <LinearProgress />;
  if (groups.length === 0 && !hasCorrections) {
    return (
      <Empty title="No findings">
        <span>The checks look at every model when it is read. What they find stands here.</span>
      </Empty>
    );
  }
  return (
    <PicturePane name="findings" isShownFirst hasSelection={keys.size > 0}>
      <Box sx={{ height: '100%', overflow: 'auto', p: 2, display: 'grid', gap: 1.5, alignContent: 'start' }}>
        <Box sx={{ display: 'flex', alignItems: 'center', fontSize: 13, color: 'text.secondary' }}>
          <Box sx={{ flex: 1 }}>
            What the checks found, the gravest first. A press on a finding marks its elements.
            {doubtful.size > 0 && stake && (
              <Box data-testid="findings-stake" sx={{ color: 'text.primary' }}>
                {doubtful.size === 1 ? 'One element' : `${doubtful.size} elements`} with errors or warnings:{' '}
                <Box component="span" sx={{ fontFamily: FIGURES }}>
                  {isPlaceholderData ? '…' : showMinor(amountToMinor(stake.amount), money.minorDigits)}
                </Box>{' '}
                {money.currency} at stake
              </Box>
            )}
          </Box>
          <PictureButton name="findings" isShownFirst />
        </Box>
        {groups.map(([code, lines]) => (
          <Box
            key={code}
            component="section"
            sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}
          >
            <Box sx={{ px: 2, py: 1, display: 'flex', gap: 2, alignItems: 'baseline' }}>
              <Typography variant="h2">{FINDING_WORDS[code]}</Typography>
              <Box sx={{ fontSize: 13, color: 'text.secondary', flex: 1 }}>{FINDING_REMEDIES[code]}</Box>
              <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{lines.reduce((n, l) => n + l.shown.length, 0)}</Box>
            </Box>
            <Box role="list" aria-label={FINDING_WORDS[code]}>
              {lines.map((line) => (
                <FindingRow key={line.id} line={line} />
              ))}
            </Box>
          </Box>
        ))}
        {left > 0 && (
          <Box sx={{ fontSize: 13, color: 'text.secondary' }}>
            {left} more findings are not shown. Correct what makes these, and the others come.
          </Box>
        )}
        {hasCorrections && <CorrectionList />}
      </Box>
    </PicturePane>
  );
}

/** Longest list of single findings that is opened under a line. */
const MOST_SHOWN = 200;

function FindingRow({ line }: { readonly line: ShownLine }) {
  const { project, accepted: reasons, money } = useProjectState('project', 'accepted', 'money');
  const change = useCommit(project.id);
  const [reason, setReason] = useState<string | null>(null);
  const [isOpen, setIsOpen] = useState(false);
  const { shown } = line;
  const stake = shown.reduce((sum, s) => sum + (s.finding.money ?? 0), 0);
  const { finding, revisionId, revisionNumber, accepted, source } = shown[0]!;
  const show = useShowElements(revisionId);
  const mark = useSelectElements(revisionId);
  const accept = (text: string) => {
    const cause = `${shown.length === 1 ? 'Finding' : `${shown.length} findings`} accepted: ${FINDING_WORDS[finding.code]}`;
    const diff = { added: shown.map((s) => ({ kind: 'accepted', id: s.key, body: { reason: text } })) };
    // What is refused keeps its reason.
    change.mutate({ cause, diff }, { onSuccess: () => setReason(null) });
  };
  const reopen = () =>
    change.mutate({
      cause: `Finding opened again: ${FINDING_WORDS[finding.code]}`,
      diff: {
        removed: shown
          .filter((s) => reasons[s.key] !== undefined)
          .map((s) => ({ kind: 'accepted', id: s.key, body: { reason: reasons[s.key] } })),
      },
    });
  const ids = shown.flatMap((s) => s.finding.globalIds);
  const { sections, pins } = useBasis('sections', 'pins');
  const nameSection = (id: string) => sections.find((s) => s.id === id)?.name ?? id;
  const settlings = shown.length === 1 ? listSettlings(finding, nameSection, pins) : [];
  return (
    <Box role="listitem" sx={{ borderTop: 1, borderColor: 'divider' }}>
      <Box
        sx={{
          display: 'flex',
          gap: 1.5,
          alignItems: 'center',
          px: 2,
          py: 0.75,
          fontSize: 13,
          color: accepted === null ? 'text.primary' : 'text.secondary',
        }}
      >
        <SeverityMark
          severity={finding.severity}
          isDoubled={finding.code === 'double-count'}
          isAccepted={accepted !== null}
        />
        <Box
          sx={{
            flex: 1,
            minWidth: 0,
            textAlign: 'left',
            font: 'inherit',
            color: 'inherit',
            border: 0,
            bgcolor: 'transparent',
            p: 0,
          }}
          {...(mark && ids.length > 0
            ? { component: 'button', onClick: () => mark(ids), style: { cursor: 'pointer' } }
            : {})}
        >
          {sayInWords(finding.message)}
          {shown.length > 1 && (
            <Box component="span" sx={{ fontWeight: 700, ml: 1 }}>
              and {shown.length - 1} more like it
            </Box>
          )}
          {stake > 0 && (
            <Box component="span" sx={{ fontFamily: FIGURES, fontWeight: 700, ml: 1, whiteSpace: 'nowrap' }}>
              {showMinor(stake, money.minorDigits)} {money.currency}
            </Box>
          )}
          <Box component="span" sx={{ color: 'text.secondary', ml: 1 }}>
            {source} {revisionNumber}
            {accepted !== null ? `, accepted: ${accepted}` : ''}
          </Box>
        </Box>
        {shown.length > 1 && (
          <IconButton
            size="small"
            aria-label={isOpen ? 'Close the list' : 'List them'}
            aria-expanded={isOpen}
            onClick={() => setIsOpen(!isOpen)}
          >
            <ExpandMoreIcon fontSize="small" sx={{ transform: isOpen ? 'rotate(180deg)' : undefined }} />
          </IconButton>
        )}
        {show && ids.length > 0 && <Button onClick={() => show(ids)}>Show</Button>}
        {accepted === null &&
          settlings.map(({ label, cause, diff }) => (
            <Button
              key={label}
              color="inherit"
              disabled={change.isPending}
              onClick={() => change.mutate({ cause, diff })}
            >
              {label}
            </Button>
          ))}
        {accepted !== null ? (
          <Button color="inherit" onClick={reopen}>
            Open again
          </Button>
        ) : reason === null ? (
          <Button color="inherit" onClick={() => setReason('')}>
            Accept
          </Button>
        ) : (
          <TextField
            autoFocus
            placeholder="Why it may stay, then Enter"
            value={reason}
            slotProps={{ htmlInput: { 'aria-label': 'Reason' } }}
            onChange={(e) => setReason(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Escape') setReason(null);
              if (e.key === 'Enter' && reason.trim() !== '' && !change.isPending) accept(reason.trim());
            }}
            sx={{ width: 260 }}
          />
        )}
      </Box>
      {isOpen && (
        <Box component="ul" sx={{ m: 0, pl: 6.5, pr: 2, pb: 1, fontSize: 13, color: 'text.secondary' }}>
          {shown.slice(0, MOST_SHOWN).map((s) => (
            <Box component="li" key={s.key} sx={{ py: 0.25 }}>
              {sayInWords(s.finding.message)}
              {show && s.finding.globalIds.length > 0 && (
                <Button size="small" sx={{ ml: 1, py: 0 }} onClick={() => show(s.finding.globalIds)}>
                  Show
                </Button>
              )}
            </Box>
          ))}
          {shown.length > MOST_SHOWN && <li>and {shown.length - MOST_SHOWN} more</li>}
        </Box>
      )}
    </Box>
  );
}

function SeverityMark({
  severity,
  isDoubled,
  isAccepted,
}: {
  readonly severity: Finding['severity'];
  /** Something is counted twice. */
  readonly isDoubled: boolean;
  readonly isAccepted: boolean;
}) {
  return (
    <Box
      role="img"
      aria-label={isAccepted ? 'accepted' : isDoubled ? 'counted twice' : severity}
      sx={{
        width: 10,
        height: 10,
        flexShrink: 0,
        borderRadius: severity === 'notice' ? '50%' : 0.25,
        transform: severity === 'error' ? 'rotate(45deg)' : undefined,
        border: 1,
        borderColor: isDoubled ? 'tally.doubled' : severity === 'error' ? 'error.main' : 'tally.unpriced',
        bgcolor:
          isAccepted || severity === 'notice'
            ? 'transparent'
            : isDoubled
              ? 'tally.doubled'
              : severity === 'error'
                ? 'error.main'
                : 'tally.unpriced',
        opacity: isAccepted ? 0.4 : 1,
      }}
    />
  );
}
