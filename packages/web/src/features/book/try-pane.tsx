import { Autocomplete, Box, TextField } from '@mui/material';
import {
  type Assembly,
  amountToMinor,
  type BookContents,
  currencyToMinorDigits,
  type ElementTable,
  evaluateScope,
  listEffectiveQuantities,
  readText,
  type TriedLine,
  tryAssembly,
} from '@tally/core';
import { useMemo, useState } from 'react';
import { useFormulaNames, useModels, useProjectState, useSample } from '../../api/project-context.tsx';
import { alignQuantity, showFigure, showMinor, showUnit } from '../../ui/format.ts';
import { checkFormula, FormulaText } from '../../ui/formula-field.tsx';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { useBook } from './use-book.ts';

/** An element that an assembly can be tried on. */
interface Trial {
  readonly table: ElementTable;
  readonly row: number;
  readonly label: string;
}

/** Most elements that are offered; typing finds the others among them. */
const MOST = 2000;

const describe = (table: ElementTable, row: number): string =>
  [
    readText(table.name, row) ?? readText(table.ifcClass, row),
    readText(table.typeName, row),
    readText(table.storey, row),
  ]
    .filter(Boolean)
    .join(' · ');

/** Quantities that usually drive an assembly, by its unit. */
const DRIVERS: Readonly<Record<string, readonly string[]>> = {
  m: ['Length', 'Perimeter'],
  m2: ['NetSideArea', 'NetArea', 'NetFloorArea', 'OuterSurfaceArea'],
  m3: ['NetVolume'],
  kg: ['Weight'],
  each: ['Count'],
};

/** A quantity of the element that fits the assembly, else one of its unit. */
function chooseDriver({ unit }: Assembly, trial: Trial | null): string {
  const columns = trial && listEffectiveQuantities(trial.table);
  const found = (DRIVERS[unit] ?? []).find((name) => {
    const value = columns?.get(name.toLowerCase())?.values[trial!.row];
    return value !== undefined && !Number.isNaN(value);
  });
  return found ?? `1 ${unit}`;
}

function countUnknown(assembly: Assembly, driver: string, book: BookContents, { table, row }: Trial): number {
  return tryAssembly(assembly, driver, book, table, row).filter((l) => l.isPart && l.net === null).length;
}

/** Of one element of each type, the one with the fewest unknown lines. */
function findFitting(trials: readonly Trial[], count: (trial: Trial) => number): Trial | undefined {
  const types = new Map(trials.map((t) => [readText(t.table.typeName, t.row) ?? t.label, t]));
  let best: { trial: Trial; unknown: number } | undefined;
  for (const trial of [...types.values()].slice(0, MOST_TYPES)) {
    const unknown = count(trial);
    if (!best || unknown < best.unknown) best = { trial, unknown };
    if (unknown === 0) break;
  }
  return best?.trial;
}

const MOST_TYPES = 60;

/** The draft of an assembly worked out on an element: every line with net, waste, to buy, rate and amount. */
export function TryPane({ assembly }: { readonly assembly: Assembly }) {
  const { basis } = useProjectState();
  const { models } = useModels();
  const sample = useSample();
  const names = useFormulaNames();
  const book = useBook();
  const digits = currencyToMinorDigits(basis.settings.currency);
  const rule = basis.rules.find((r) => r.assembly?.toLowerCase() === assembly.code.toLowerCase());
  const trials = useMemo((): Trial[] => {
    const caught: Trial[] = [];
    const others: Trial[] = [];
    for (const { table } of models) {
      const hits = rule ? evaluateScope(rule.scope, table) : null;
      for (let row = 0; row < table.count && caught.length + others.length < MOST; row++)
        (hits?.[row] ? caught : others).push({ table, row, label: describe(table, row) });
    }
    return [...caught, ...others];
  }, [models, rule]);
  const [chosen, setChosen] = useState<Trial | null>(null);
  const [typed, setTyped] = useState<string | null>(null);
  // What it is tried on at first should have what the assembly asks for; looked for once, not at every sign that is typed.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the draft changes with every sign
  const first = useMemo(
    () =>
      (rule ? trials[0] : findFitting(trials, (t) => countUnknown(assembly, chooseDriver(assembly, t), book, t))) ??
      null,
    [trials, rule, assembly.code],
  );
  const trial = chosen ?? (sample ? { ...sample, label: describe(sample.table, sample.row) } : null) ?? first;
  const driver = typed ?? rule?.driver ?? chooseDriver(assembly, trial);
  const problem = checkFormula(driver, assembly.unit, names);
  const lines = useMemo(
    () => (trial && problem === null ? tryAssembly(assembly, driver, book, trial.table, trial.row) : []),
    [assembly, driver, book, trial, problem],
  );
  const rows = lines.map((line, i) => ({ ...line, id: String(i) }));
  const known = lines.filter((l) => l.isPart);
  const total = known.reduce((sum, l) => sum + (l.amount ?? 0), 0);
  const missing = known.filter((l) => l.amount === null).length;
  const columns: TableColumn<TriedLine & { id: string }>[] = [
    { key: 'code', heading: 'Item', width: 92, cell: (l) => l.code },
    {
      key: 'description',
      heading: 'Description',
      width: 0,
      isFaint: true,
      cell: (l) => (l.isPart ? (l.problem?.message ?? l.description) : 'Not here: its condition does not hold'),
    },
    {
      key: 'net',
      heading: 'Net',
      width: 92,
      isFigure: true,
      cell: (l) => (l.net === null ? '' : alignQuantity(l.net, l.unit)),
    },
    {
      key: 'waste',
      heading: 'Waste %',
      width: 66,
      isFigure: true,
      cell: (l) => (l.net === null || l.wastePercent === 0 ? '' : String(l.wastePercent)),
    },
    {
      key: 'toBuy',
      heading: 'To buy',
      width: 92,
      isFigure: true,
      cell: (l) => (l.toBuy === null ? '' : alignQuantity(l.toBuy, l.unit)),
    },
    { key: 'unit', heading: 'Unit', width: 52, isFaint: true, cell: (l) => showUnit(l.unit) },
    {
      key: 'rate',
      heading: 'Rate',
      width: 84,
      isFigure: true,
      cell: (l) => (l.rate === null ? '' : showFigure(l.rate, 2)),
    },
    {
      key: 'amount',
      heading: `Amount ${basis.settings.currency}`,
      width: 104,
      isFigure: true,
      cell: (l) => (l.amount === null ? '' : showMinor(amountToMinor(l.amount), digits)),
    },
  ];
  return (
    <Box component="section" aria-label="Try it" sx={{ display: 'grid', gap: 1, gridTemplateRows: 'auto 190px' }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'start' }}>
        <Autocomplete
          options={trials}
          value={trial}
          getOptionKey={(t) => `${models.findIndex((m) => m.table === t.table)}/${t.row}`}
          getOptionLabel={(t) => t.label}
          isOptionEqualToValue={(a, b) => a.table === b.table && a.row === b.row}
          onChange={(_, next) => setChosen(next)}
          renderInput={(p) => <TextField {...p} label="Try it on" />}
          sx={{ flex: 1.4 }}
        />
        <Box sx={{ flex: 1 }}>
          <FormulaText label="With a driver of" value={driver} names={names} problem={problem} onChange={setTyped} />
        </Box>
        <Box
          role="status"
          aria-label="Amount of the trial"
          sx={{ fontSize: 13, pt: 1, minWidth: 160, textAlign: 'right' }}
        >
          {showMinor(amountToMinor(total), digits)} {basis.settings.currency}
          <Box sx={{ color: 'text.secondary' }}>
            {missing > 0 ? `${missing} of ${known.length} lines unknown` : `${known.length} lines`}
          </Box>
        </Box>
      </Box>
      <Box sx={{ minHeight: 0, display: 'flex' }}>
        <VirtualTable
          label="Lines tried"
          rows={rows}
          columns={columns}
          rowId={(l) => l.id}
          isMarked={(l) => l.problem !== null}
        />
      </Box>
    </Box>
  );
}
