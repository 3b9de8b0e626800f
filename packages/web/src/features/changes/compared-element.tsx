import { Box } from '@mui/material';
import type { ComparedElementDto, ExplainedLine } from '@tally/core';
import { amountToMinor } from '@tally/core';
import { useProjectState } from '../../store/project-store.tsx';
import { useComparedElement } from '../../store/queries.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showMinor, showMove, showQuantity, showSignificant, showUnit } from '../../ui/format.ts';

/** A line of an element on both sides. */
interface LinePair {
  readonly id: string;
  readonly before: ExplainedLine | null;
  readonly after: ExplainedLine | null;
}

/** Pairs the lines of an element by what they come through. */
export function pairLines({ before, after }: ComparedElementDto): LinePair[] {
  const nameAll = (lines: readonly ExplainedLine[]) => {
    const names = new Map<string, ExplainedLine>();
    for (const line of lines) {
      const name = JSON.stringify([line.section, line.part, line.path, line.code]);
      let id = name;
      for (let n = 2; names.has(id); n++) id = `${name}#${n}`;
      names.set(id, line);
    }
    return names;
  };
  const [old, now] = [nameAll(before?.lines ?? []), nameAll(after?.lines ?? [])];
  const pairs = [...new Set([...old.keys(), ...now.keys()])].map((id) => ({ id, before: old.get(id) ?? null, after: now.get(id) ?? null })); // biome-ignore format: one list
  const moveOf = (p: LinePair) => (p.after?.amount ?? 0) - (p.before?.amount ?? 0);
  return pairs.sort((a, b) => Math.abs(moveOf(b)) - Math.abs(moveOf(a)));
}

/** What an element costs on both sides, line by line: quantity, rate, amount, and the move. */
export function ComparedElement({
  from,
  to,
  elementKey,
}: {
  readonly from: string;
  readonly to: string;
  readonly elementKey: number;
}) {
  const { project, money } = useProjectState('project', 'money');
  const { data } = useComparedElement(project.id, from, to, elementKey);
  if (!data) return null;
  const minor = (amount: number | null) => (amount === null ? 'unknown' : showMinor(amountToMinor(amount), money.minorDigits)); // biome-ignore format: one step
  const net = (line: ExplainedLine | null) =>
    !line ? '' : line.net === null ? 'unknown' : `${showQuantity(line.net, line.item?.unit ?? '')} ${showUnit(line.item?.unit ?? '')}`; // biome-ignore format: one choice
  const rate = (line: ExplainedLine | null) => (line?.rate == null ? '' : showSignificant(line.rate, 9));
  return (
    <Box
      component="table"
      aria-label="The element on both sides"
      sx={{
        fontSize: 12.5,
        width: '100%',
        borderCollapse: 'collapse',
        bgcolor: 'background.paper',
        '& th': { textAlign: 'left', fontWeight: 400, color: 'text.secondary', fontSize: 11.5 },
        '& td, & th': { px: 0.75, py: 0.25, borderBottom: 1, borderColor: 'divider', whiteSpace: 'nowrap' },
        '& .figure': { fontFamily: FIGURES, textAlign: 'right' },
      }}
    >
      <thead>
        <tr>
          <th>Item</th>
          <th className="figure">Before</th>
          <th className="figure">at</th>
          <th className="figure">Amount</th>
          <th className="figure">After</th>
          <th className="figure">at</th>
          <th className="figure">Amount</th>
          <th className="figure">Move</th>
        </tr>
      </thead>
      <tbody>
        {pairLines(data).map(({ id, before, after }) => (
          <tr key={id}>
            <td
              title={(after ?? before)!.reason}
              style={{ maxWidth: 240, overflow: 'hidden', textOverflow: 'ellipsis' }}
            >
              {(after ?? before)!.item?.description ?? (after ?? before)!.code}
            </td>
            <td className="figure">{net(before)}</td>
            <td className="figure">{rate(before)}</td>
            <td className="figure">{before ? minor(before.amount) : ''}</td>
            <td className="figure">{net(after)}</td>
            <td className="figure">{rate(after)}</td>
            <td className="figure">{after ? minor(after.amount) : ''}</td>
            <td className="figure">
              {showMove(amountToMinor((after?.amount ?? 0) - (before?.amount ?? 0)), money.minorDigits)}
            </td>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
