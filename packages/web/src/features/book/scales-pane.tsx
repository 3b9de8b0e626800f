import { Box } from '@mui/material';
import { compileScale, type Scale } from '@tally/core';
import { useState } from 'react';
import { useProjectState } from '../../api/project-context.tsx';
import { showUnit } from '../../ui/format.ts';
import { BookList, PANE_SX } from './book-list.tsx';
import { ScaleSheet } from './scale-sheet.tsx';

const describe = ({ keys, rows, unit }: Scale): string =>
  `${showUnit(unit)} by ${keys.map((k) => k.name.toLowerCase()).join(' and ')}, ${rows.length === 1 ? 'one row' : `${rows.length} rows`}`;

/** Scales: the list, and the chosen one as a table with its steps drawn beside it. */
export function ScalesPane({
  name,
  onChoose,
}: {
  readonly name: string;
  readonly onChoose: (name: string | null) => void;
}) {
  const { basis } = useProjectState();
  const [isAdding, setAdding] = useState(false);
  const chosen = isAdding ? null : (basis.scales.find((s) => s.name === name) ?? basis.scales[0] ?? null);
  const choose = (next: string | null) => {
    setAdding(false);
    onChoose(next);
  };
  return (
    <Box sx={PANE_SX}>
      <BookList
        label="Scales"
        entries={basis.scales.map((s) => {
          const made = compileScale(s);
          return {
            id: s.name,
            title: s.name,
            note: made.ok ? describe(s) : made.problem.message,
            isFaulty: !made.ok,
          };
        })}
        chosen={chosen?.name ?? null}
        onChoose={choose}
        addLabel="New scale"
        onAdd={() => setAdding(true)}
      />
      {chosen || isAdding ? (
        <ScaleSheet key={isAdding ? 'new' : JSON.stringify(chosen)} scale={chosen} onKept={choose} />
      ) : (
        <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
          A scale gives a figure by another: a rate by the depth of a trench, by a diameter, by the value of an order.
        </Box>
      )}
    </Box>
  );
}
