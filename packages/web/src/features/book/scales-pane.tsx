import { compileScale, type Scale } from '@tally/core';
import { useBasis } from '../../store/project-store.tsx';
import { showUnit } from '../../ui/format.ts';
import { NamedPane } from './named-pane.tsx';
import { ScaleSheet } from './scale-sheet.tsx';

const describe = ({ keys, rows, unit }: Scale): string =>
  `${showUnit(unit)} by ${keys.map((k) => k.name.toLowerCase()).join(' and ')}, ${rows.length === 1 ? 'one row' : `${rows.length} rows`}`;

/** Scales: the list, and the chosen one as a table with its steps drawn beside it. */
export function ScalesPane(props: { readonly name: string; readonly onChoose: (name: string | null) => void }) {
  const basis = useBasis('scales');
  return (
    <NamedPane
      {...props}
      label="Scales"
      kind="scale"
      addLabel="New scale"
      hint="A scale gives a figure by another: a rate by the depth of a trench, by a diameter, by the value of an order."
      list={basis.scales}
      describe={(scale) => {
        const made = compileScale(scale);
        return { note: made.ok ? describe(scale) : made.problem.message, isFaulty: !made.ok };
      }}
      sheet={(scale, onKept) => <ScaleSheet scale={scale} onKept={onKept} />}
    />
  );
}
