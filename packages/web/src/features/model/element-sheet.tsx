import { Box, Typography } from '@mui/material';
import {
  ADDED_SET,
  type Basis,
  classWord,
  DESCRIBING_QUANTITIES,
  type ElementTable,
  findQuantityOrigin,
  listEffectiveQuantities,
  type ModelElement,
  nameProperty,
  nameQuantity,
  type Quantity,
  readElement,
  readGlobalId,
  type SourceKind,
  TOLERANCE,
} from '@tally/core';
import { useMemo } from 'react';
import type { LoadedModels } from '../../store/loaded-models.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { useSelection } from '../../store/selection.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showFigure, showProperty, showQuantity, showSi, type UnitSystem } from '../../ui/format.ts';
import { METHOD_WORDS } from '../../ui/method-words.ts';
import { CostSection } from './cost-section.tsx';
import { DecisionSection } from './decision-section.tsx';
import { FaceSection } from './face-section.tsx';
import { FactSection } from './fact-section.tsx';
import { AttributeSection, FinishSection, ZoneSection } from './given-here.tsx';
import { RelatedElement } from './related-element.tsx';
import { figure, Pair, Section } from './sheet-section.tsx';

/** Everything about the selected element on one sheet; about many, what they have in common. */
export function ElementSheet({ models }: { readonly models: LoadedModels }) {
  const { keys } = useSelection();
  const only = keys.size === 1 ? [...keys][0]! : null;
  const place = only === null ? null : models.find(only);
  if (keys.size === 0) {
    return (
      <Box sx={{ p: 2, color: 'text.secondary', fontSize: 13 }}>
        Click an element in the model, the tree or a table. Hold Ctrl or ⌘ to add more.
      </Box>
    );
  }
  if (keys.size > 1 || !place) return <ManySheet models={models} />;
  return <OneSheet table={place.model.table} row={place.row} elementKey={only!} />;
}

function ManySheet({ models }: { readonly models: LoadedModels }) {
  const { keys } = useSelection();
  const units = sheetUnits(useProjectState('basis').basis.settings.units);
  const places = useMemo(() => [...keys].flatMap((key) => models.find(key) ?? []), [keys, models]);
  const elements = useMemo(() => places.map(({ model, row }) => readElement(model.table, row)), [places]);
  const sums = useMemo(() => sumQuantities(places), [places]);
  const shared = (read: (e: ModelElement) => string | null) => {
    const values = new Set(elements.map(read));
    return values.size === 1 ? ([...values][0] ?? 'none') : `${values.size} different`;
  };
  return (
    <Box>
      <Box sx={{ p: 1.5 }}>
        <Typography variant="h2">{elements.length} elements</Typography>
      </Box>
      <Section title="In common">
        <Pair name="Class">{shared((e) => classWord(e.ifcClass))}</Pair>
        <Pair name="Type">{shared((e) => e.typeName)}</Pair>
        <Pair name="Storey">{shared((e) => e.storey)}</Pair>
      </Section>
      {elements.length > 0 && elements.every((e) => e.finishes) && (
        <FinishSection keys={[...keys]} elements={elements} />
      )}
      <FactSection keys={[...keys]} />
      <AttributeSection keys={[...keys]} elements={elements} />
      <ZoneSection keys={[...keys]} />
      <Section title="Sums and ranges">
        {sums.map((s) => {
          const [least, most, sum] = [s.least, s.most, s.sum].map((value) => showSi(value, s.unit, units));
          const isRange = DESCRIBING_QUANTITIES.has(s.name) && s.least !== s.most;
          const shown = DESCRIBING_QUANTITIES.has(s.name) ? least! : sum!;
          return (
            <Box
              key={`${s.name} ${s.unit}`}
              sx={{ display: 'grid', gridTemplateColumns: '1fr auto 30px', gap: 1, py: 0.25 }}
            >
              <Box sx={{ fontSize: 13 }} title={s.name}>
                {nameQuantity(s.name).word}
                {s.count < elements.length && (
                  <Box component="span" sx={{ color: 'text.secondary' }}>
                    {' '}
                    of {s.count}
                  </Box>
                )}
              </Box>
              <Box sx={figure}>{isRange ? `${least!.figure} – ${most!.figure}` : shown.figure}</Box>
              <Box sx={{ color: 'text.secondary', fontSize: 12 }}>{shown.unit}</Box>
            </Box>
          );
        })}
      </Section>
    </Box>
  );
}

/** What an element without a class is. */
const ORIGIN_WORDS: Readonly<Record<SourceKind, string>> = {
  model: 'No class',
  list: 'Line of a list',
  hand: 'Measured by hand',
  form: 'Of a form',
  allowance: 'Allowance',
};

function OneSheet({
  table,
  row,
  elementKey,
}: {
  readonly table: ElementTable;
  readonly row: number;
  readonly elementKey: number;
}) {
  const e = readElement(table, row);
  const globalId = readGlobalId(table, row);
  return (
    <Box data-testid="element-sheet">
      <Box sx={{ p: 1.5 }}>
        <Typography variant="h2" sx={{ overflowWrap: 'anywhere' }}>
          {e.name ?? 'Without a name'}
        </Typography>
        <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
          {[classWord(e.ifcClass) || ORIGIN_WORDS[table.origin?.kind ?? 'model'], e.typeName]
            .filter(Boolean)
            .join(' · ')}
        </Box>
      </Box>
      <CostSection elementKey={elementKey} name={e.name || classWord(e.ifcClass)} />
      <DecisionSection elementKey={elementKey} />
      <QuantitySection element={e} basisOf={(name) => findQuantityOrigin(table, row, name)?.basis ?? null} />
      <FaceSection element={e} elementKey={elementKey} />
      {e.finishes && <FinishSection keys={[elementKey]} elements={[e]} />}
      <FactSection keys={[elementKey]} />
      <AttributeSection keys={[elementKey]} elements={[e]} />
      <ZoneSection keys={[elementKey]} />
      <Section title="Where it is">
        <Pair name="Storey">{e.storey ?? 'none'}</Pair>
        {e.zones.length > 0 && <Pair name="Zone">{e.zones.join(', ')}</Pair>}
        {e.codes.length > 0 && <Pair name="Code">{e.codes.join(', ')}</Pair>}
        {e.tag && <Pair name="Tag">{e.tag}</Pair>}
        <RelatedElement name="Part of" table={table} row={row} relation="parent" />
        <RelatedElement name="Sits in" table={table} row={row} relation="host" />
        {globalId !== null && (
          <Pair name="GlobalId">
            <Box component="span" sx={{ fontFamily: FIGURES, fontSize: 12 }}>
              {globalId}
            </Box>
          </Pair>
        )}
      </Section>
      <SlopeSection table={table} row={row} />
      {e.layers.length > 0 && <LayerSection element={e} />}
      {e.layers.length === 0 && e.materials.length > 0 && (
        <Section title="Materials">
          {e.materials.map((m) => (
            <Box key={m} sx={{ fontSize: 13 }}>
              {m}
            </Box>
          ))}
        </Section>
      )}
      {e.openings.length > 0 && (
        <Section title={`Openings (${e.openings.length})`}>
          {e.openings.map((o) => (
            <Box key={o.globalId} sx={{ display: 'flex', justifyContent: 'space-between', fontSize: 13, py: 0.25 }}>
              <span>{o.filledBy ? 'Filled' : 'Empty'}</span>
              <Box sx={figure}>
                {o.width !== null && o.height !== null
                  ? `${showFigure(o.width)} × ${showFigure(o.height)} m${o.area === null ? ', area not measured' : ` = ${showFigure(o.area)} m²`}`
                  : 'not measured'}
              </Box>
            </Box>
          ))}
        </Section>
      )}
      {Object.entries(e.properties)
        .filter(([set]) => set !== ADDED_SET)
        .map(([set, values]) => (
          <Section key={set} title={nameProperty(set.replace(/^Pset_/, ''))} hint={set}>
            {Object.entries(values).map(([name, value]) => (
              <Pair key={name} name={nameProperty(name)} hint={name}>
                {showProperty(value)}
              </Pair>
            ))}
          </Section>
        ))}
    </Box>
  );
}

/** The narrow sheet has room for one way of writing figures. */
const sheetUnits = (system: UnitSystem): UnitSystem => (system === 'both' ? 'metric' : system);

/** Figures of a name over several elements, SI. */
interface QuantitySum {
  readonly name: string;
  readonly unit: string;
  sum: number;
  count: number;
  least: number;
  most: number;
}

/** The figures that count for the plan, over some elements: sums and ranges of each name. */
function sumQuantities(places: readonly NonNullable<ReturnType<LoadedModels['find']>>[]): QuantitySum[] {
  const sums = new Map<string, QuantitySum>();
  for (const { model, row } of places) {
    for (const { name, unit, values } of listEffectiveQuantities(model.table).values()) {
      const value = values[row]!;
      if (unit === 'number' || Number.isNaN(value)) continue;
      const of = `${name.toLowerCase()} ${unit}`;
      const s = sums.get(of) ?? { name, unit, sum: 0, count: 0, least: value, most: value };
      s.sum += value;
      s.count++;
      s.least = Math.min(s.least, value);
      s.most = Math.max(s.most, value);
      sums.set(of, s);
    }
  }
  return [...sums.values()];
}

/** Figures by name: measured and stated beside each other, the one that is used in full ink. A figure given here stands for both. */
function QuantitySection({
  element,
  basisOf,
}: {
  readonly element: ModelElement;
  readonly basisOf: (name: string) => Basis | null;
}) {
  const { units: system, statedTolerance } = useProjectState('basis').basis.settings;
  const units = sheetUnits(system);
  const tolerance = statedTolerance ?? TOLERANCE.statedShare;
  const names = [...new Set(element.quantities.map((q) => q.name))];
  const find = (name: string, basis: Basis) => element.quantities.find((q) => q.name === name && q.basis === basis);
  return (
    <Section title="Quantities">
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'minmax(0,1fr) auto auto 24px',
          columnGap: 1,
          rowGap: 0.25,
          alignItems: 'baseline',
        }}
      >
        {['used in bold', 'measured', 'stated', ''].map((h, i) => (
          <Box key={`${h}${i}`} sx={{ fontSize: 11.5, color: 'text.secondary', textAlign: i === 0 ? 'left' : 'right' }}>
            {h}
          </Box>
        ))}
        {names.map((name) => {
          const [given, measured, s] = [find(name, 'given'), find(name, 'measured'), find(name, 'stated')];
          const m = given ?? measured;
          const show = ({ value, unit }: Quantity) => showSi(value, unit, units);
          const isFar = m && s && Math.abs(m.value - s.value) > tolerance * Math.abs(m.value);
          const isStatedUsed = basisOf(name) === 'stated';
          const ink = (isUsed: boolean) => (isUsed ? { fontWeight: 700 } : { color: 'text.secondary' });
          return (
            <Box key={name} sx={{ display: 'contents' }}>
              <Box sx={{ fontSize: 13, overflow: 'hidden', textOverflow: 'ellipsis' }} title={name}>
                {nameQuantity(name).word}
                {isFar && (
                  <Box component="span" sx={{ color: 'error.main', ml: 0.75, fontSize: 12 }}>
                    {showDifference(s.value, m.value)}
                  </Box>
                )}
              </Box>
              <Box
                title={m ? describeMeasured(m) : 'not measured'}
                sx={{ ...figure, ...ink(m !== undefined && !isStatedUsed) }}
              >
                {m?.exactness === 'mesh' && (
                  <Box
                    component="span"
                    aria-label="from the mesh"
                    sx={{ color: 'text.disabled', mr: 0.5, fontWeight: 400 }}
                  >
                    ≈
                  </Box>
                )}
                {m ? show(m).figure : '–'}
              </Box>
              <Box
                title={
                  isFar ? 'Differs from the measured figure by more than the tolerance' : s ? 'stated in the file' : ''
                }
                sx={{ ...figure, ...ink(isStatedUsed), ...(isFar ? { color: 'error.main' } : {}) }}
              >
                {s ? `${isFar ? '≠ ' : ''}${show(s).figure}` : ''}
              </Box>
              <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{show((m ?? s)!).unit}</Box>
            </Box>
          );
        })}
      </Box>
    </Section>
  );
}

/** How a figure was found and how far it can be trusted. */
function describeMeasured({ method, exactness }: Quantity): string {
  const words = METHOD_WORDS[method];
  return exactness === 'exact' ? `exact, ${words}` : exactness === 'mesh' ? `from the mesh (≈), ${words}` : words;
}

/** By how much a stated figure differs from the measured one, with its sign. */
function showDifference(stated: number, measured: number): string {
  const percent = (stated / measured - 1) * 100;
  return `${percent > 0 ? '+' : ''}${showFigure(percent, Math.abs(percent) < 10 ? 1 : 0)} %`;
}

function showMillimetres(metres: number | null): string {
  if (metres === null) return '';
  const mm = Math.round(metres * 10_000) / 10;
  return `${showFigure(mm, Number.isInteger(mm) ? 0 : 1)} mm`;
}

/** The layers as a section: each as wide as it is thick, in the order of the set. */
function LayerStrip({ element }: { readonly element: ModelElement }) {
  const pools = [...new Set(element.layers.map((l) => l.material))];
  return (
    <Box
      aria-hidden
      sx={{ display: 'flex', height: 26, mb: 0.75, border: 1, borderColor: 'text.secondary', borderRadius: 0.25 }}
    >
      {element.layers.map((l, i) => (
        <Box
          key={i}
          title={`${l.material ?? 'No material'} ${showMillimetres(l.thickness)}`}
          sx={{
            flex: `${Math.max(l.thickness ?? l.volume ?? 0, 0)} 0 2px`,
            borderLeft: i > 0 ? 1 : 0,
            borderColor: 'text.secondary',
            opacity: 0.35 + (0.6 * pools.indexOf(l.material)) / Math.max(1, pools.length),
            bgcolor: 'tally.priced',
            backgroundImage:
              i % 2 === 1
                ? (t) =>
                    `repeating-linear-gradient(135deg, ${t.vars!.palette.background.paper} 0 1px, transparent 1px 5px)`
                : undefined,
          }}
        />
      ))}
    </Box>
  );
}

/** Slopes of a roof one by one: pitch and area. */
function SlopeSection({ table, row }: { readonly table: ElementTable; readonly row: number }) {
  const slopes = (table.roofSlopes ?? []).filter((s) => s.row === row);
  if (slopes.length < 2) return null;
  return (
    <Section title={`Slopes (${slopes.length})`}>
      {slopes.map((s, i) => (
        <Box key={i} sx={{ display: 'flex', justifyContent: 'space-between', fontSize: 13, py: 0.25 }}>
          <Box sx={figure}>{showFigure(s.pitch, 1)}°</Box>
          <Box sx={figure}>{showQuantity(s.area, 'm2')} m²</Box>
        </Box>
      ))}
    </Section>
  );
}

function LayerSection({ element }: { readonly element: ModelElement }) {
  return (
    <Section title={`Layers (${element.layers.length})`}>
      <LayerStrip element={element} />
      {element.layers.map((l, i) => (
        <Box key={i} sx={{ display: 'grid', gridTemplateColumns: '1fr 62px 74px', gap: 1, fontSize: 13, py: 0.25 }}>
          <Box>
            {l.material ?? 'No material'}
            {l.function && (
              <Box component="span" sx={{ color: 'text.secondary', ml: 0.75, fontSize: 12 }}>
                {l.function}
              </Box>
            )}
          </Box>
          <Box sx={figure}>{showMillimetres(l.thickness)}</Box>
          <Box sx={figure}>{l.volume === null ? '–' : `${showFigure(l.volume, 3)} m³`}</Box>
        </Box>
      ))}
    </Section>
  );
}
