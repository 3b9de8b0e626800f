import CloseIcon from '@mui/icons-material/Close';
import { Box, Button, Link as MuiLink } from '@mui/material';
import {
  type BehindElement,
  type ExplainedLine,
  type GroupField,
  nameGroup,
  OWN_SECTIONS,
  type PlanView,
} from '@tally/core';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useBehind, useElementCost } from '../../store/queries.ts';
import { useSelection } from '../../store/selection.tsx';
import { DerivedLine } from '../../ui/derived-line.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showMinor, showQuantity, showUnit } from '../../ui/format.ts';
import { IconAct } from '../../ui/icon-act.tsx';
import { useModelPicture } from '../../ui/model-picture.tsx';
import { usePictureShown } from '../../ui/picture-pane.tsx';
import { FigureForm } from './figure-form.tsx';
import { LineActs } from './line-acts.tsx';
import type { PlanTableRow, RowPath } from './plan-table-rows.ts';

/** How the figure of a row came about: the way down to it, the elements behind it, and of one of them quantity, formula, waste, rate; the building above, with them framed. */
export function DerivationPane({
  row,
  view,
  onClose,
  onOpenRow,
}: {
  readonly row: PlanTableRow;
  readonly view: PlanView;
  readonly onClose: () => void;
  readonly onOpenRow: (id: string) => void;
}) {
  const { project, money, summary } = useProjectState('project', 'money', 'summary');
  const { data: behind } = useBehind(project.id, view, row.id);
  const { select } = useSelection();
  const [chosen, choose] = useState<{ readonly row: string; readonly key: number } | null>(null);
  const Picture = useModelPicture();
  const [isPictureShown] = usePictureShown('plan', true);
  const list = behind?.elements ?? [];
  const count = behind?.count ?? null;
  const only = count === 1 && list.length === 1 ? list[0]!.key : null;
  const key = chosen?.row === row.id ? chosen.key : only;
  const minor = row.kind === 'group' ? row.group.minor : row.line.minor;
  const title =
    row.kind === 'group' ? row.group.label : (row.line.element ?? `${row.line.item} ${row.line.description}`.trim());
  const take = (element: BehindElement) => {
    choose({ row: row.id, key: element.key });
    select([element.key]);
  };
  const isSurplus = row.id.includes('#surplus|');
  return (
    <Box
      aria-label="How it came about"
      role="region"
      sx={{ display: 'flex', flexDirection: 'column', height: '100%', minHeight: 0, fontSize: 13 }}
    >
      {Picture && isPictureShown && (
        <Box sx={{ height: 190, flexShrink: 0, borderBottom: 1, borderColor: 'divider', position: 'relative' }}>
          <Picture />
        </Box>
      )}
      <Box sx={{ px: 1.5, pt: 1, display: 'flex', gap: 1 }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <WayDown
            path={row.path}
            total={summary.total}
            digits={money.minorDigits}
            level={row.level}
            rowId={row.id}
            onOpenRow={onOpenRow}
          />
          <Box sx={{ fontWeight: 650, overflowWrap: 'anywhere' }}>{title}</Box>
        </Box>
        <IconAct word="Put the derivation away" onClick={onClose}>
          <CloseIcon sx={{ fontSize: 16 }} />
        </IconAct>
      </Box>
      <Box
        sx={{
          px: 1.5,
          pb: 0.5,
          display: 'flex',
          justifyContent: 'space-between',
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        <Box component="span" sx={{ color: 'text.secondary' }}>
          {isSurplus
            ? 'Whole packs beyond what is needed'
            : count === null
              ? '…'
              : `${count} ${count === 1 ? 'element' : 'elements'}`}
        </Box>
        <Box component="span" data-testid="derived-amount" sx={{ fontFamily: FIGURES, fontWeight: 650 }}>
          {row.kind === 'line' && row.line.open > 0 ? 'not priced' : showMinor(minor, money.minorDigits)}
        </Box>
      </Box>
      {row.kind === 'line' && row.line.open === 0 && !isSurplus && <LineActs line={row.line} elementKey={key} />}
      <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto' }}>
        {key !== null && <ElementDerivation key={key} elementKey={key} row={row} />}
        {list.length > 1 && (
          <Box component="ol" aria-label="Elements behind it" sx={{ listStyle: 'none', m: 0, p: 0 }}>
            {list.map((element) => (
              <BehindRow
                key={element.key}
                element={element}
                unit={row.kind === 'line' ? row.line.unit : ''}
                isChosen={element.key === key}
                digits={money.minorDigits}
                onChoose={() => take(element)}
              />
            ))}
            {count !== null && count > list.length && (
              <Box component="li" sx={{ px: 1.5, py: 0.5, color: 'text.secondary' }}>
                and {count - list.length} more; make elements the rows of the plan to see all
              </Box>
            )}
          </Box>
        )}
      </Box>
    </Box>
  );
}

/** The way from the total down to a row; each step leads to its row. */
function WayDown({
  path,
  total,
  digits,
  level,
  rowId,
  onOpenRow,
}: {
  readonly path: RowPath;
  readonly total: number;
  readonly digits: number;
  readonly level: number;
  readonly rowId: string;
  readonly onOpenRow: (id: string) => void;
}) {
  const above = path.slice(0, level);
  const ids = rowId.split('#')[0]!.split('/').slice(1);
  return (
    <Box sx={{ fontSize: 12, color: 'text.secondary', overflowWrap: 'anywhere' }}>
      Total {showMinor(total, digits)}
      {above.map(({ by, is }, i) => (
        <span key={`${by}${is}`}>
          {' › '}
          <MuiLink
            component="button"
            type="button"
            color="inherit"
            title={nameGroup(by as GroupField).word}
            onClick={() => onOpenRow(`/${ids.slice(0, i + 1).join('/')}`)}
            sx={{ fontSize: 12, verticalAlign: 'baseline' }}
          >
            {is}
          </MuiLink>
        </span>
      ))}
    </Box>
  );
}

function BehindRow({
  element,
  unit,
  isChosen,
  digits,
  onChoose,
}: {
  readonly element: BehindElement;
  readonly unit: string;
  readonly isChosen: boolean;
  readonly digits: number;
  readonly onChoose: () => void;
}) {
  const { label, storey, net, amount, unknown, isOpen } = element;
  return (
    <Box
      component="li"
      sx={{
        borderBottom: 1,
        borderColor: 'divider',
        bgcolor: isChosen ? 'tally.selectionSoft' : isOpen || unknown > 0 ? 'tally.unpricedSoft' : undefined,
      }}
    >
      <Box
        component="button"
        type="button"
        aria-pressed={isChosen}
        onClick={onChoose}
        sx={{
          all: 'unset',
          boxSizing: 'border-box',
          width: '100%',
          display: 'grid',
          gridTemplateColumns: '1fr auto',
          columnGap: 1,
          px: 1.5,
          py: 0.5,
          cursor: 'pointer',
          '&:focus-visible': { outline: 2, outlineColor: 'tally.selection', outlineOffset: -2 },
        }}
      >
        <Box sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{label}</Box>
        <Box sx={{ fontFamily: FIGURES, textAlign: 'right' }}>
          {isOpen ? 'not priced' : unknown > 0 ? 'unknown' : showMinor(Math.round(amount / 10_000), digits)}
        </Box>
        <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{storey ?? ''}</Box>
        <Box sx={{ fontSize: 12, color: 'text.secondary', fontFamily: FIGURES, textAlign: 'right' }}>
          {net === null ? '' : `${showQuantity(net, unit)} ${showUnit(unit)}`}
        </Box>
      </Box>
    </Box>
  );
}

/** True of a line of an element that a row of the plan is made of. */
const isOfRow = (line: ExplainedLine, row: PlanTableRow): boolean =>
  row.kind === 'group' || row.line.item === '' || (line.code === row.line.item && line.section === row.line.section);

/** The lines of one element that a row is made of, each opened to how it came about; each step leads to where it is changed. */
function ElementDerivation({ elementKey, row }: { readonly elementKey: number; readonly row: PlanTableRow }) {
  const { project, money } = useProjectState('project', 'money');
  const { sections } = useBasis('sections');
  const { data: cost } = useElementCost(project.id, elementKey);
  const [edited, edit] = useState<string | null>(null);
  const [isPictureShown] = usePictureShown('plan', true);
  const { figure, showFigure } = useSelection();
  // What was shown of one element is not shown of the next.
  useEffect(() => () => showFigure(null), [showFigure]);
  if (!cost || cost.key !== elementKey) return null;
  const lines = cost.lines.filter((l) => isOfRow(l, row));
  const link = (to: string, text: string) => (
    <MuiLink component={Link} to={`/projects/${project.id}/${to}`} sx={{ fontSize: 12 }}>
      {text}
    </MuiLink>
  );
  return (
    <Box sx={{ borderBottom: 1, borderColor: 'divider', bgcolor: 'background.default' }}>
      {cost.openParts.length > 0 && (
        <Box sx={{ px: 1.5, py: 0.5, bgcolor: 'tally.unpricedSoft' }}>Not decided: {cost.openParts.join(', ')}</Box>
      )}
      {lines.length === 0 && (
        <Box sx={{ px: 1.5, py: 1 }}>Nothing prices it. {link('mapping', 'Decide what does')}</Box>
      )}
      {lines.map((line, i) => (
        <Box key={i} sx={{ px: 1.5, pt: 0.75, borderTop: i > 0 ? 1 : 0, borderColor: 'divider' }}>
          <Box sx={{ display: 'flex', gap: 1, fontWeight: 600 }}>
            <Box sx={{ flex: 1, overflowWrap: 'anywhere' }}>{line.item?.description || line.code}</Box>
            <Box sx={{ fontFamily: FIGURES, color: line.amount === null ? 'error.main' : undefined }}>
              {line.amount === null ? 'unknown' : showMinor(Math.round(line.amount / 10_000), money.minorDigits)}
            </Box>
          </Box>
          <DerivedLine
            line={line}
            section={[...sections, ...OWN_SECTIONS].find((s) => s.id === line.section)?.name ?? line.section ?? ''}
            links={{
              rule: (rule) => link(`mapping?view=rules&rule=${encodeURIComponent(rule)}`, 'Rule'),
              item: (code, text) => link(`book?item=${encodeURIComponent(code)}`, text),
              quantity: (q) =>
                elementKey > 0 && q.unit !== '' ? (
                  <>
                    {isPictureShown && (
                      <Button
                        size="small"
                        aria-pressed={figure?.key === elementKey && figure.quantity === q.name}
                        onClick={() =>
                          showFigure(figure?.quantity === q.name ? null : { key: elementKey, quantity: q.name })
                        }
                        sx={{ fontSize: 12, p: 0, minWidth: 0, mr: 1 }}
                      >
                        Show
                      </Button>
                    )}
                    <Button
                      size="small"
                      onClick={() => edit(edited === q.name ? null : q.name)}
                      sx={{ fontSize: 12, p: 0, minWidth: 0 }}
                    >
                      {q.basis === 'given' ? 'Set anew' : 'Set by hand'}
                    </Button>
                  </>
                ) : null,
            }}
          />
          {line.quantities
            .filter((q) => q.name === edited)
            .map((q) => (
              <FigureForm key={q.name} elementKey={elementKey} quantity={q} onDone={() => edit(null)} />
            ))}
        </Box>
      ))}
    </Box>
  );
}
