import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import TuneIcon from '@mui/icons-material/Tune';
import { Autocomplete, Box, IconButton, MenuItem, TextField } from '@mui/material';
import { type Assembly, type BuildUpLine, isConsumption, type LineCheck, type LineRun } from '@tally/core';
import { useState } from 'react';
import { useBasis } from '../../store/project-store.tsx';
import { askFigure, echoFigure, editFigure, readFigure, showUnit } from '../../ui/format.ts';
import { describeProblem, FormulaText } from '../../ui/formula-field.tsx';

const RUNS: readonly { readonly run: LineRun | ''; readonly words: string }[] = [
  { run: '', words: 'Once per element' },
  { run: 'opening', words: 'Once per opening' },
  { run: 'layer', words: 'Once per layer' },
  { run: 'junction', words: 'Once per junction' },
  { run: 'room', words: 'Once per room' },
  { run: 'project', words: 'Once for the project' },
];

const RUN_NOTES: Readonly<Partial<Record<LineRun, string>>> = {
  room: 'Figures are sums over the room.',
  project: 'Figures are sums over all elements.',
};

/** What was typed as the amount of a line: a consumption if it reads as one, else a formula. */
function withAmount({ quantity: _, consumption: __, ...line }: BuildUpLine, text: string): BuildUpLine {
  return isConsumption(text) ? { ...line, consumption: text } : { ...line, quantity: text };
}

/** One line of a recipe: what, how much, only where; the rarer things in a second row. */
export function RecipeLine({
  id,
  line,
  assembly,
  check,
  figureOf,
  onChange,
  onRemove,
}: {
  readonly id: number;
  readonly line: BuildUpLine;
  readonly assembly: Assembly;
  readonly check: LineCheck;
  readonly figureOf: (name: string) => string | null;
  readonly onChange: (line: BuildUpLine) => void;
  readonly onRemove: () => void;
}) {
  const basis = useBasis('assemblies', 'items');
  const sortable = useSortable({ id });
  const isSpecial = [
    line.name,
    line.per,
    line.crew,
    line.of,
    line.piece,
    line.wastePercent,
    line.note,
    line.parameters,
  ].some((v) => v !== undefined);
  const [isOpen, setOpen] = useState(false);
  const choices = [
    ...basis.items.map((i) => ({ code: i.code, label: `${i.code} ${i.description}`, isItem: true })),
    ...basis.assemblies
      .filter((a) => a.code !== assembly.code)
      .map((a) => ({ code: a.code, label: `${a.code} ${a.description}`, isItem: false })),
  ];
  const code = line.item ?? line.assembly ?? '';
  const choice = choices.find((c) => c.code === code) ?? { code, label: code, isItem: line.item !== undefined };
  const amount = line.consumption ?? line.quantity ?? '';
  const note = check.meaning ? `= ${check.meaning}` : undefined;
  return (
    <Box
      ref={sortable.setNodeRef}
      role="group"
      aria-label={`Line ${code}`}
      style={{ transform: CSS.Translate.toString(sortable.transform), transition: sortable.transition }}
      sx={{ display: 'grid', gap: 1, bgcolor: 'background.paper', zIndex: sortable.isDragging ? 1 : undefined }}
    >
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: '24px minmax(170px, 1fr) minmax(180px, 1.2fr) minmax(120px, 0.7fr) 32px 32px',
          gap: 1,
          alignItems: 'start',
        }}
      >
        {/* A plain button: the library's own takes the space bar for itself. */}
        <Box
          component="button"
          type="button"
          {...sortable.attributes}
          {...sortable.listeners}
          aria-label={`Move the line ${code}`}
          sx={{
            all: 'unset',
            cursor: 'grab',
            mt: 0.75,
            color: 'text.secondary',
            touchAction: 'none',
            '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
          }}
        >
          <DragIndicatorIcon fontSize="small" />
        </Box>
        <Autocomplete
          disableClearable
          options={choices}
          value={choice}
          getOptionKey={(c) => c.code}
          getOptionLabel={(c) => c.label}
          isOptionEqualToValue={(a, b) => a.code === b.code}
          onChange={(_, c) =>
            onChange({
              ...line,
              item: c.isItem ? c.code : undefined,
              assembly: c.isItem ? undefined : c.code,
              // What was handed to another assembly means nothing to this one.
              parameters: undefined,
            })
          }
          renderInput={(p) => <TextField {...p} label="Item or assembly" helperText={line.note} />}
        />
        <FormulaText
          label={check.unit ? `How much, in ${showUnit(check.unit)}` : 'How much'}
          value={amount}
          names={check.names}
          problem={check.quantity ? describeProblem(check.quantity, amount) : null}
          note={note}
          figureOf={figureOf}
          onChange={(text) => onChange(withAmount(line, text))}
        />
        <FormulaText
          label="Only where"
          value={line.when ?? ''}
          names={check.names}
          problem={check.when ? describeProblem(check.when, line.when ?? '') : null}
          figureOf={figureOf}
          onChange={(when) => onChange({ ...line, when: when || undefined })}
        />
        <IconButton
          aria-label={`More about the line ${code}`}
          aria-expanded={isOpen}
          color={isSpecial ? 'primary' : 'default'}
          onClick={() => setOpen(!isOpen)}
        >
          <TuneIcon fontSize="small" />
        </IconButton>
        <IconButton aria-label="Take this line out" onClick={onRemove}>
          <DeleteOutlineIcon fontSize="small" />
        </IconButton>
      </Box>
      {isOpen && <LineDetails line={line} check={check} onChange={onChange} />}
      {isOpen && <HandedParameters line={line} check={check} onChange={onChange} />}
    </Box>
  );
}

function LineDetails({
  line,
  check,
  onChange,
}: {
  readonly line: BuildUpLine;
  readonly check: LineCheck;
  readonly onChange: (line: BuildUpLine) => void;
}) {
  const figure = (key: 'crew' | 'wastePercent', label: string) => (
    <FigureField label={label} value={line[key]} onChange={(value) => onChange({ ...line, [key]: value })} />
  );
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: '186px minmax(90px, 0.7fr) minmax(100px, 1fr) minmax(96px, 0.8fr) 66px 74px',
        gap: 1,
        pl: 4,
        pb: 1.5,
      }}
    >
      <TextField
        select
        label="Runs"
        value={line.per ?? ''}
        onChange={(e) => onChange({ ...line, per: (e.target.value || undefined) as LineRun | undefined })}
        error={check.run !== null}
        helperText={check.run ? describeProblem(check.run, '') : line.per && RUN_NOTES[line.per]}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      >
        {RUNS.map(({ run, words }) => (
          <MenuItem key={run} value={run}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        label="Result called"
        value={line.name ?? ''}
        placeholder="for other lines"
        onChange={(e) => onChange({ ...line, name: e.target.value || undefined })}
      />
      <FormulaText
        label="Goes by"
        value={line.of ?? ''}
        names={check.names}
        problem={null}
        note={line.consumption === undefined ? 'For a consumption.' : 'The driver if empty.'}
        onChange={(of) => onChange({ ...line, of: of || undefined })}
      />
      <FormulaText
        label="One piece is"
        value={line.piece ?? ''}
        names={check.names}
        problem={check.piece ? describeProblem(check.piece, line.piece ?? '') : null}
        note="If sold in lengths."
        onChange={(piece) => onChange({ ...line, piece: piece || undefined })}
      />
      {figure('crew', 'Crew')}
      {figure('wastePercent', 'Waste %')}
      <TextField
        label="Note"
        value={line.note ?? ''}
        onChange={(e) => onChange({ ...line, note: e.target.value || undefined })}
        sx={{ gridColumn: '1 / -1' }}
      />
    </Box>
  );
}

/** What a line hands to its assembly: a formula for each of its parameters, or nothing where its own value stays. */
function HandedParameters({
  line,
  check,
  onChange,
}: {
  readonly line: BuildUpLine;
  readonly check: LineCheck;
  readonly onChange: (line: BuildUpLine) => void;
}) {
  const basis = useBasis('assemblies');
  const { parameters: own = [] } = basis.assemblies.find((a) => a.code === line.assembly) ?? {};
  const handed = line.parameters ?? {};
  // What the assembly does not have stays in sight until it is taken out.
  const strange = Object.keys(handed).filter((name) => !own.some((p) => p.name === name));
  const fields = [...own, ...strange.map((name) => ({ name, unit: 'number', value: '' }))];
  if (fields.length === 0) return null;
  const set = (name: string, text: string) => {
    const { [name]: _, ...others } = handed;
    const all = text.trim() === '' ? others : { ...others, [name]: text };
    onChange({ ...line, parameters: Object.keys(all).length > 0 ? all : undefined });
  };
  return (
    <Box
      role="group"
      aria-label={`Handed to ${line.assembly ?? line.item}`}
      sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(200px, 1fr))', gap: 1, pl: 4, pb: 1.5 }}
    >
      {fields.map((p) => {
        const text = handed[p.name] ?? '';
        const problem = check.parameters[p.name];
        return (
          <FormulaText
            key={p.name}
            label={`${p.name}, in ${showUnit(p.unit)}`}
            value={text}
            names={check.names}
            problem={problem ? describeProblem(problem, text) : null}
            note={p.value === '' ? undefined : `${p.value} if empty`}
            onChange={(value) => set(p.name, value)}
          />
        );
      })}
    </Box>
  );
}

/** What of a typed figure is held: nothing for none, and no number for what cannot be read. */
const readHeld = (text: string): number | undefined =>
  text.trim() === '' ? undefined : (readFigure(text) ?? Number.NaN);

/** A figure that may be left empty; what cannot be read stays as it was typed, and is told as no number: it is not kept. */
function FigureField({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: number | undefined;
  readonly onChange: (value: number | undefined) => void;
}) {
  const [typed, setTyped] = useState('');
  // What is typed stands as long as it is what is held: that may be taken back, or changed by somebody else.
  const text = Object.is(readHeld(typed), value)
    ? typed
    : value === undefined || Number.isNaN(value)
      ? ''
      : editFigure(value);
  const isUnread = text.trim() !== '' && readFigure(text) === null;
  return (
    <TextField
      label={label}
      value={text}
      error={isUnread}
      helperText={askFigure(text) ?? (isUnread ? 'No figure.' : echoFigure(text))}
      slotProps={{ inputLabel: { shrink: true } }}
      onChange={(e) => {
        setTyped(e.target.value);
        onChange(readHeld(e.target.value));
      }}
    />
  );
}
