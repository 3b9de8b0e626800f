import { Box, Button } from '@mui/material';
import type { CutBar, ItemCut } from '@tally/core';
import type { ReactNode } from 'react';
import { usePageView } from '../../store/page-view.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { useCut, useCutItems } from '../../store/queries.ts';
import { Empty } from '../../ui/empty.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showFigure } from '../../ui/format.ts';
import { PrintSheet } from '../../ui/print-sheet.tsx';

const FIRST = { cut: '' };

/** Bars that are cut alike, as one. */
export interface BarKind {
  readonly bar: CutBar;
  readonly times: number;
  /** What its pieces are for, each once, with how often. */
  readonly from: readonly (readonly [name: string, count: number])[];
}

/** Bars by how they are cut: those of one length with the same pieces stand together. */
export function listBarKinds(bars: readonly CutBar[]): BarKind[] {
  const kinds = new Map<string, { bar: CutBar; times: number; from: Map<string, number> }>();
  for (const bar of bars) {
    const id = JSON.stringify([bar.stockM, bar.pieces.map((p) => p.lengthM)]);
    const kind = kinds.get(id) ?? { bar, times: 0, from: new Map() };
    kinds.set(id, kind);
    kind.times++;
    for (const { from } of bar.pieces) kind.from.set(from, (kind.from.get(from) ?? 0) + 1);
  }
  return [...kinds.values()].map(({ from, ...kind }) => ({ ...kind, from: [...from] }));
}

/** How sold lengths are cut: item by item the bars to scale, what each piece is for, what is left over. */
export function CuttingPane({ choice }: { readonly choice: ReactNode }) {
  const { project } = useProjectState('project');
  const { data: items } = useCutItems(project.id);
  const [look, changeLook] = usePageView('cutting', FIRST);
  const code =
    items?.find((i) => i.code === look.cut)?.code ?? items?.find((i) => i.isByList)?.code ?? items?.[0]?.code ?? null;
  const { data, error } = useCut(project.id, code);
  const lists = code === null ? [] : (data?.lists ?? []);
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1 }}>
      <Box role="toolbar" aria-label="Plan" sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
        {choice}
        <Box sx={{ flex: 1, color: 'text.secondary' }}>
          Pieces cut from the lengths that items are sold in, with little waste. An item says in the book whether it is
          bought by this list.
        </Box>
        <Button variant="outlined" color="inherit" disabled={lists.length === 0} onClick={() => window.print()}>
          Print
        </Button>
      </Box>
      {items?.length === 0 ? (
        <Empty title="Nothing is cut">
          <span>
            No item of the plan is sold in lengths. Say in the book how an item is sold, e.g. &ldquo;lengths 3.6, 4.8
            m&rdquo;.
          </span>
        </Empty>
      ) : (
        <Box sx={{ flex: 1, minHeight: 0, display: 'grid', gridTemplateColumns: 'minmax(190px, 240px) 1fr', gap: 1.5 }}>
          <Box
            component="nav"
            aria-label="Items sold in lengths"
            sx={{ overflow: 'auto', bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}
          >
            {(items ?? []).map((i) => (
              <Box
                key={i.code}
                component="button"
                type="button"
                aria-current={i.code === code}
                onClick={() => changeLook({ cut: i.code })}
                sx={{
                  all: 'unset',
                  boxSizing: 'border-box',
                  display: 'block',
                  width: '100%',
                  px: 1,
                  py: 0.75,
                  cursor: 'pointer',
                  fontSize: 13,
                  bgcolor: i.code === code ? 'tally.selectionSoft' : undefined,
                  '&:focus-visible': { outline: 2, outlineColor: 'tally.selection', outlineOffset: -2 },
                }}
              >
                <Box component="span" sx={{ color: 'text.secondary', mr: 1 }}>
                  {i.code}
                </Box>
                {i.description}
                <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
                  {i.isByList ? 'bought by this list' : 'bought piece by piece'}
                </Box>
              </Box>
            ))}
          </Box>
          <Box
            sx={{
              overflow: 'auto',
              minHeight: 0,
              bgcolor: 'background.paper',
              border: 1,
              borderColor: 'divider',
              borderRadius: 1,
              p: 1.5,
            }}
          >
            {error && (
              <Box role="alert" sx={{ color: 'error.main' }}>
                {error.message}
              </Box>
            )}
            {!error && lists.map((list) => <CutList key={list.storey ?? ''} list={list} />)}
          </Box>
        </Box>
      )}
      <PrintSheet>
        {() =>
          lists.map((list) => (
            <section key={list.storey ?? ''}>
              <h2>
                Cutting list: {list.item} {list.description}
              </h2>
              <p>
                {project.name}
                {list.storey ? `, ${list.storey}` : ''}. {list.bars.length} bars, {showFigure(list.stockM, 2)} m; waste{' '}
                {showFigure(list.wasteM, 2)} m.
              </p>
              <table>
                <thead>
                  <tr>
                    <th className="figure">Bars</th>
                    <th className="figure">Length m</th>
                    <th>Pieces m</th>
                    <th className="figure">Offcut m</th>
                    <th>For</th>
                  </tr>
                </thead>
                <tbody>
                  {listBarKinds(list.bars).map(({ bar, times, from }, i) => (
                    <tr key={i}>
                      <td className="figure">{times}</td>
                      <td className="figure">{showFigure(bar.stockM, 2)}</td>
                      <td>{bar.pieces.map((p) => showFigure(p.lengthM, 3)).join(' + ')}</td>
                      <td className="figure">{showFigure(bar.offcutM, 3)}</td>
                      <td>{sayFrom(from)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </section>
          ))
        }
      </PrintSheet>
    </Box>
  );
}

const MOST_NAMED = 6;
const sayFrom = (from: BarKind['from']): string => {
  const named = from.slice(0, MOST_NAMED).map(([name, n]) => (n > 1 ? `${name} × ${n}` : name));
  return from.length > MOST_NAMED ? `${named.join(', ')} and ${from.length - MOST_NAMED} more` : named.join(', ');
};

function CutList({ list }: { readonly list: ItemCut }) {
  const kinds = listBarKinds(list.bars);
  const longest = Math.max(...list.bars.map((b) => b.stockM), 0.001);
  const wasteShare = list.stockM > 0 ? (list.wasteM / list.stockM) * 100 : 0;
  const facts: readonly (readonly [string, string])[] = [
    ['Bars', String(list.bars.length)],
    ['Length bought', `${showFigure(list.stockM, 2)} m`],
    ['Pieces', `${showFigure(list.piecesM, 2)} m`],
    ['Waste', `${showFigure(list.wasteM, 2)} m, ${showFigure(wasteShare, 1)} %`],
    ...(list.keptM > 0 ? [['Kept for reuse', `${showFigure(list.keptM, 2)} m`] as const] : []),
    ...(list.joints > 0 ? [['Joints', String(list.joints)] as const] : []),
    ['No plan needs less than', `${showFigure(list.lowerBoundM, 2)} m`],
  ];
  return (
    <Box sx={{ mb: 2 }}>
      <Box sx={{ fontWeight: 650, mb: 0.5 }}>
        {list.item} {list.description}
        {list.storey ? `, ${list.storey}` : ''}
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 3, fontSize: 13, mb: 1 }}>
        {facts.map(([name, value]) => (
          <Box key={name}>
            <Box component="span" sx={{ color: 'text.secondary', mr: 0.75 }}>
              {name}
            </Box>
            <Box component="span" sx={{ fontFamily: FIGURES }}>
              {value}
            </Box>
          </Box>
        ))}
      </Box>
      {list.unknown > 0 && (
        <Box sx={{ bgcolor: 'tally.unpricedSoft', px: 1, py: 0.5, mb: 1, fontSize: 13 }}>
          {list.unknown} elements have no known quantity: their pieces are not in it.
        </Box>
      )}
      {kinds.map(({ bar, times, from }, i) => (
        <Box
          key={i}
          title={sayFrom(from)}
          sx={{ display: 'grid', gridTemplateColumns: '44px 1fr', gap: 1, alignItems: 'center', mb: '3px' }}
        >
          <Box sx={{ fontFamily: FIGURES, fontSize: 12.5, textAlign: 'right' }}>{times} ×</Box>
          <Bar bar={bar} longest={longest} />
        </Box>
      ))}
    </Box>
  );
}

/** A bar to scale with its pieces; what is left over is hatched, thinly where it is kept. */
function Bar({ bar, longest }: { readonly bar: CutBar; readonly longest: number }) {
  return (
    <Box
      sx={{ display: 'flex', height: 22, width: `${(bar.stockM / longest) * 100}%`, border: 1, borderColor: 'divider' }}
    >
      {bar.pieces.map((piece, i) => (
        <Box
          key={i}
          sx={{
            flex: `${piece.lengthM} 0 0`,
            minWidth: 0,
            borderRight: 1,
            borderColor: 'text.secondary',
            bgcolor: 'tally.petrolSoft',
            fontFamily: FIGURES,
            fontSize: 11.5,
            textAlign: 'center',
            lineHeight: '20px',
            overflow: 'hidden',
            whiteSpace: 'nowrap',
          }}
        >
          {showFigure(piece.lengthM, 3)}
        </Box>
      ))}
      {bar.offcutM > 0.0005 && (
        <Box
          sx={{
            flex: `${bar.offcutM} 0 0`,
            minWidth: 0,
            fontFamily: FIGURES,
            fontSize: 11,
            textAlign: 'center',
            lineHeight: '20px',
            overflow: 'hidden',
            color: 'text.secondary',
            backgroundImage: bar.isKept
              ? undefined
              : (t) => `repeating-linear-gradient(45deg, ${t.vars!.palette.divider} 0 2px, transparent 2px 6px)`,
          }}
        >
          {showFigure(bar.offcutM, 2)}
          {bar.isKept ? ' kept' : ''}
        </Box>
      )}
    </Box>
  );
}
