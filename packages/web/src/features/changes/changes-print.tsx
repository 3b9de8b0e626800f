import { type ComparisonDto, type GroupField, nameGroup } from '@tally/core';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { showMinor, showMove } from '../../ui/format.ts';
import { PrintSheet } from '../../ui/print-sheet.tsx';
import { CAUSE_WORDS } from './cause-words.ts';
import { listActing, listCostedGroups } from './moved-groups.ts';
import { CHANGE_WORDS, sayChange } from './say-change.ts';
import { shareShownMoves } from './shown-moves.ts';

/** Elements that are printed at most: those that move the most. */
const MOST_PRINTED = 200;

/** The comparison as it is printed: causes, groups, then the elements that move the most money. */
export function ChangesPrint({
  comparison,
  title,
  by,
  currency,
}: {
  readonly comparison: ComparisonDto;
  readonly title: string;
  readonly by: GroupField;
  readonly currency: string;
}) {
  const { project } = useProjectState('project');
  const { settings } = useBasis('settings');
  const { move, groups, elements, rest, minorDigits } = comparison;
  const minor = (m: number) => showMinor(m, minorDigits);
  const change = (m: number) => (m === 0 ? '' : showMove(m, minorDigits));
  const acting = listActing(groups);
  const listPrinted = () => {
    const minors = shareShownMoves(comparison, null);
    const moved = elements.filter((e) => minors.get(e.key) !== 0);
    const printed = moved.slice(0, MOST_PRINTED).map((e) => ({ e, minor: minors.get(e.key)! }));
    const left = move.move - printed.reduce((sum, p) => sum + p.minor, 0);
    return { printed, others: moved.length - printed.length + rest.count, left };
  };
  const draw = () => {
    const { printed, others, left } = listPrinted();
    return (
        <section>
          <h2>{project.name}</h2>
          <p>
            {title}: {change(move.move)} {currency}
          </p>
          <table>
            <thead>
              <tr>
                <th>{nameGroup(by).word}</th>
                <th className="figure">Before</th>
                <th className="figure">After</th>
                <th className="figure">Move</th>
                {acting.map((c) => (
                  <th key={c} className="figure">
                    {CAUSE_WORDS[c].word}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {[...listCostedGroups(groups), { label: 'All', from: move.before, to: move.after, ...move }].map((g) => (
                <tr key={g.label} className={g.label === 'All' ? 'head' : undefined}>
                  <td>{g.label}</td>
                  <td className="figure">{minor(g.from)}</td>
                  <td className="figure">{minor(g.to)}</td>
                  <td className="figure">{change(g.move)}</td>
                  {acting.map((c) => (
                    <td key={c} className="figure">
                      {change(g.causes[c])}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
          <h2>Elements</h2>
          <table>
            <tbody>
              {printed.map(({ e, minor: own }) => (
                <tr key={e.key}>
                  <td>{e.label}</td>
                  <td>{CHANGE_WORDS[e.isIdentified ? 'identified' : e.what]}</td>
                  <td>{sayChange(e, settings.units)}</td>
                  <td className="figure">{change(own)}</td>
                </tr>
              ))}
              {left !== 0 && (
                <tr>
                  <td colSpan={3}>
                    {others > 0 ? `${others} other elements, and what whole packs leave over` : 'What whole packs leave over'}
                  </td>
                  <td className="figure">{change(left)}</td>
                </tr>
              )}
              <tr className="head">
                <td colSpan={3}>All</td>
                <td className="figure">{change(move.move)}</td>
              </tr>
            </tbody>
          </table>
        </section>
    );
  };
  return <PrintSheet>{draw}</PrintSheet>;
} // biome-ignore format: tables in a line each
