import { Box, Button, TextField, Typography } from '@mui/material';
import type { FindingCode } from '@tally/core';
import { useMemo, useState } from 'react';
import { listFindings, type ShownFinding, useProjectState } from '../../api/project-context.tsx';
import { useChange } from '../../api/use-change.ts';
import { useShowElements } from '../../api/use-show-elements.ts';
import { Empty } from '../../ui/empty.tsx';
import { FINDING_REMEDIES, FINDING_WORDS } from '../../ui/finding-words.ts';

const RANK = { error: 0, warning: 1, notice: 2 } as const;

/** What the checks of the models found, by kind; each leads to its elements and can be accepted with a reason. */
export function FindingsPage() {
  const state = useProjectState();
  const groups = useMemo(() => {
    const byCode = new Map<FindingCode, ShownFinding[]>();
    for (const f of listFindings(state)) byCode.set(f.finding.code, [...(byCode.get(f.finding.code) ?? []), f]);
    const rank = (list: readonly ShownFinding[]) =>
      Math.min(...list.map((f) => (f.accepted === null ? RANK[f.finding.severity] : 3)));
    return [...byCode].sort(([, a], [, b]) => rank(a) - rank(b));
  }, [state]);
  if (groups.length === 0) {
    return (
      <Empty title="No findings">
        <span>The checks look at every model when it is read. What they find stands here.</span>
      </Empty>
    );
  }
  return (
    <Box sx={{ flex: 1, overflow: 'auto', p: 2, display: 'grid', gap: 1.5, alignContent: 'start' }}>
      {groups.map(([code, list]) => (
        <Box
          key={code}
          component="section"
          sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}
        >
          <Box sx={{ px: 2, py: 1, display: 'flex', gap: 2, alignItems: 'baseline' }}>
            <Typography variant="h2">{FINDING_WORDS[code]}</Typography>
            <Box sx={{ fontSize: 13, color: 'text.secondary', flex: 1 }}>{FINDING_REMEDIES[code]}</Box>
            <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{list.length}</Box>
          </Box>
          {list.map((f) => (
            <FindingRow key={`${f.revision.id}${f.key}`} shown={f} />
          ))}
        </Box>
      ))}
    </Box>
  );
}

function FindingRow({ shown }: { readonly shown: ShownFinding }) {
  const { project } = useProjectState();
  const change = useChange(project.id);
  const [reason, setReason] = useState<string | null>(null);
  const { finding, key, revision, accepted } = shown;
  const show = useShowElements(revision.id);
  const accept = (text: string) => {
    change.mutate({
      cause: `Finding accepted: ${FINDING_WORDS[finding.code]}`,
      diff: { added: [{ kind: 'accepted', id: key, body: { reason: text } }] },
    });
    setReason(null);
  };
  const reopen = () =>
    change.mutate({
      cause: `Finding opened again: ${FINDING_WORDS[finding.code]}`,
      diff: { removed: [{ kind: 'accepted', id: key, body: { reason: accepted } }] },
    });
  return (
    <Box
      role="listitem"
      sx={{
        display: 'flex',
        gap: 1.5,
        alignItems: 'center',
        px: 2,
        py: 0.75,
        borderTop: 1,
        borderColor: 'divider',
        fontSize: 13,
        color: accepted === null ? 'text.primary' : 'text.secondary',
      }}
    >
      <Box
        aria-label={accepted !== null ? 'accepted' : finding.severity}
        sx={{
          width: 10,
          height: 10,
          flexShrink: 0,
          borderRadius: finding.severity === 'notice' ? '50%' : 0.25,
          transform: finding.severity === 'error' ? 'rotate(45deg)' : undefined,
          border: 1,
          borderColor: finding.severity === 'error' ? 'error.main' : 'tally.unpriced',
          bgcolor:
            accepted !== null || finding.severity === 'notice'
              ? 'transparent'
              : finding.severity === 'error'
                ? 'error.main'
                : 'tally.unpriced',
          opacity: accepted === null ? 1 : 0.4,
        }}
      />
      <Box sx={{ flex: 1, minWidth: 0 }}>
        {finding.message}
        <Box component="span" sx={{ color: 'text.secondary', ml: 1 }}>
          {shown.source} {revision.number}
          {accepted !== null ? `, accepted: ${accepted}` : ''}
        </Box>
      </Box>
      {show && finding.globalIds.length > 0 && <Button onClick={() => show(finding.globalIds)}>Show</Button>}
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
            if (e.key === 'Enter' && reason.trim() !== '') accept(reason.trim());
          }}
          sx={{ width: 260 }}
        />
      )}
    </Box>
  );
}
