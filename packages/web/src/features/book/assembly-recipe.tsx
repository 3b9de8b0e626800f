import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import AddIcon from '@mui/icons-material/Add';
import { Autocomplete, Box, Button, TextField, Typography } from '@mui/material';
import {
  type Assembly,
  assemblySchema,
  type BuildUpLine,
  checkAssembly,
  codeKey,
  FormulaNames,
  findCodeUses,
  isSameBody,
  listLineIds,
  takeOutDiff,
  UNIT_SYMBOLS,
  UNUSUAL_WASTE,
} from '@tally/core';
import { useMemo, useState } from 'react';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useQuantityNames } from '../../store/use-elements.ts';
import { useOtherChange } from '../../store/use-other-change.ts';
import { usePreview } from '../../store/use-preview.ts';
import { describeProblem } from '../../ui/formula-field.tsx';
import { OtherChange } from '../../ui/other-change.tsx';
import { useQuestion } from '../../ui/use-question.tsx';
import { questionWaste } from './ask-waste.ts';
import { BackToBook } from './back-to-book.tsx';
import { SHEET_SX } from './book-list.tsx';
import { ClassField } from './class-field.tsx';
import { Effect } from './effect.tsx';
import { ParameterList } from './parameter-list.tsx';
import { RecipeLine } from './recipe-line.tsx';
import { TryPane } from './try-pane.tsx';
import { useBook } from './use-book.ts';
import { useTrial } from './use-trial.ts';

/** An assembly whose lines all have their ids: they are kept when lines are moved about, renamed, or given another item. */
function withLineIds(assembly: Assembly): Assembly {
  const ids = listLineIds(assembly.lines);
  return { ...assembly, lines: assembly.lines.map((line, i) => ({ ...line, id: ids[i]! })) };
}

/** A draft as it is kept: without what was left empty. */
function toKept(unnamed: Assembly): Assembly {
  const draft = withLineIds(unnamed);
  const filled = <T extends object>(o: T): T =>
    Object.fromEntries(Object.entries(o).filter(([, v]) => v !== undefined && v !== '')) as T;
  return JSON.parse(
    JSON.stringify({ ...draft, code: draft.code.trim(), lines: draft.lines.map((l) => filled(l)) }),
  ) as Assembly;
}

const FIELD_WORDS = { description: 'Description', unit: 'Driver', group: 'Group', classes: 'Classes', parameters: 'Parameters', lines: 'Lines' } as const; // biome-ignore format: one list
const showField = (_: string, value: unknown): string =>
  Array.isArray(value)
    ? value
        .map((part: { item?: string; assembly?: string; name?: string }) => part.item ?? part.assembly ?? part.name)
        .join(', ')
    : typeof value === 'object' && value !== null
      ? Object.values(value).join(', ')
      : String(value ?? 'none');

/** One assembly as a readable recipe: head, parameters, lines, and the trial on an element below. */
export function AssemblyRecipe({
  assembly,
  isNew,
  onDuplicate,
  onKept,
}: {
  readonly assembly: Assembly;
  readonly isNew: boolean;
  readonly onDuplicate: (draft: Assembly) => void;
  readonly onKept: (code: string) => void;
}) {
  const { project, book: shared } = useProjectState('project', 'book');
  const basis = useBasis('assemblies', 'items');
  const { ask, dialog } = useQuestion();
  const book = useBook();
  const quantities = useQuantityNames();
  const change = useCommit(project.id);
  const [draft, setDraft] = useState<Assembly>(() => withLineIds(assembly));
  // Names of the lines while they are moved about; the library takes 0 for none.
  const [ids, setIds] = useState(() => assembly.lines.map((_, i) => i + 1));
  const check = useMemo(() => checkAssembly(draft, book, new FormulaNames(quantities)), [draft, book, quantities]);
  const kept = toKept(draft);
  const asKept = useMemo(() => toKept(assembly), [assembly]);
  const parsed = assemblySchema.safeParse(kept);
  const isTaken = isNew && basis.assemblies.some((a) => codeKey(a.code) === codeKey(kept.code));
  const hasFault =
    check.problem !== null ||
    check.lines.some((l) => (l.run ?? l.quantity ?? l.when ?? l.piece) || Object.keys(l.parameters).length > 0) ||
    check.parameters.some((p) => p !== null) ||
    !parsed.success ||
    isTaken;
  const isChanged = isNew || !isSameBody(kept, asKept);
  const diff = isNew
    ? { added: [{ kind: 'assembly', id: kept.code, body: kept }] }
    : { updated: [{ kind: 'assembly', id: assembly.code, from: assembly, to: kept }] };
  const move = usePreview(project.id, isChanged && !isNew && !hasFault ? diff : null);
  const uses = findCodeUses(assembly.code, book);
  const trial = useTrial(draft);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  /** Another state of it, with lines that are told apart anew. */
  const takeUp = (state: Assembly) => {
    setDraft(withLineIds(state));
    setIds(state.lines.map((_, i) => i + 1));
  };
  const other = useOtherChange(asKept, isNew ? null : asKept, kept, takeUp, true);
  const setLines = (lines: readonly BuildUpLine[]) => setDraft({ ...draft, lines });
  const save = async () => {
    const wasteBefore = new Set(assembly.lines.map((l) => l.wastePercent));
    const unusual = kept.lines.find((l) => (l.wastePercent ?? 0) > UNUSUAL_WASTE && !wasteBefore.has(l.wastePercent));
    const of = unusual && `The line ${unusual.item ?? unusual.assembly}`;
    if (of && !(await ask(questionWaste(unusual.wastePercent!, of)))) return;
    other.noteSent(kept);
    change.mutate(
      { cause: `Assembly ${isNew ? 'added' : 'changed'}: ${kept.code} ${kept.description}`, diff },
      { onSuccess: () => isNew && onKept(kept.code) },
    );
  };
  return (
    <Box sx={{ minHeight: 0, display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto', gap: 1.5 }}>
      <Box component="section" aria-label="Assembly" sx={SHEET_SX}>
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
          <Box role="status" aria-label="State of the assembly" sx={{ flex: 1, fontSize: 13, color: 'text.secondary' }}>
            {isTaken ? (
              'There is an assembly of this code already.'
            ) : isNew ? (
              'Not kept yet.'
            ) : isChanged && !hasFault ? (
              <Effect move={move} />
            ) : uses.length === 0 ? (
              'Not used yet.'
            ) : (
              `Used in: ${uses.map((u) => u.label).join(', ')}`
            )}
          </Box>
          <BackToBook kind="assembly" id={assembly.code} body={assembly} />
          {!isNew && (
            <Button
              color="inherit"
              disabled={uses.length > 0}
              onClick={() =>
                change.mutate({
                  cause: `Assembly removed: ${assembly.code} ${assembly.description}`,
                  diff: takeOutDiff('assembly', assembly.code, assembly, shared),
                })
              }
            >
              Remove
            </Button>
          )}
          <Button color="inherit" onClick={() => onDuplicate(kept)}>
            Duplicate
          </Button>
          <Button disabled={!isChanged || isNew} color="inherit" onClick={() => takeUp(assembly)}>
            Discard
          </Button>
          <Button
            variant="contained"
            disabled={!isChanged || hasFault || other.conflicts.length > 0 || change.isPending}
            onClick={() => void save()}
          >
            Save the assembly
          </Button>
        </Box>
        <OtherChange other={other} words={FIELD_WORDS} show={showField} />
        <Box sx={{ display: 'grid', gridTemplateColumns: '96px minmax(0, 1fr) 80px 110px 220px', gap: 1.5 }}>
          <TextField
            label="Code"
            value={draft.code}
            disabled={!isNew}
            autoFocus={isNew}
            onChange={(e) => setDraft({ ...draft, code: e.target.value })}
          />
          <TextField
            label="Description"
            value={draft.description}
            onChange={(e) => setDraft({ ...draft, description: e.target.value })}
          />
          <Autocomplete
            freeSolo
            disableClearable
            options={UNIT_SYMBOLS}
            inputValue={draft.unit}
            onInputChange={(_, unit) => setDraft({ ...draft, unit })}
            renderInput={(p) => <TextField {...p} label="Driver in" />}
          />
          <TextField
            label="Group"
            value={draft.group ?? ''}
            onChange={(e) => setDraft({ ...draft, group: e.target.value || undefined })}
          />
          <ClassField classes={draft.classes} onChange={(classes) => setDraft({ ...draft, classes })} />
        </Box>
        {check.problem && (
          <Box role="alert" sx={{ fontSize: 13, color: 'error.main' }}>
            {describeProblem(check.problem, '')}
          </Box>
        )}
        <ParameterList
          parameters={draft.parameters ?? []}
          names={check.names}
          problems={check.parameters}
          onChange={(parameters) => setDraft({ ...draft, parameters: parameters.length > 0 ? parameters : undefined })}
        />
        <Box sx={{ display: 'grid', gap: 1.5 }}>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Typography variant="h3">Lines</Typography>
            <Button
              size="small"
              color="inherit"
              startIcon={<AddIcon />}
              onClick={() => {
                setIds([...ids, Math.max(0, ...ids) + 1]);
                setLines([...draft.lines, { item: basis.items[0]?.code ?? '', quantity: 'Driver' }]);
              }}
            >
              Add a line
            </Button>
          </Box>
          <DndContext
            sensors={sensors}
            collisionDetection={closestCenter}
            onDragEnd={({ active, over }) => {
              if (!over || active.id === over.id) return;
              const [from, to] = [ids.indexOf(active.id as number), ids.indexOf(over.id as number)];
              setIds(arrayMove(ids, from, to));
              setLines(arrayMove([...draft.lines], from, to));
            }}
          >
            <SortableContext items={ids} strategy={verticalListSortingStrategy}>
              {draft.lines.map((line, i) => (
                <RecipeLine
                  key={ids[i]}
                  id={ids[i]!}
                  line={line}
                  assembly={draft}
                  check={check.lines[i]!}
                  figureOf={trial.figureOf}
                  onChange={(next) => setLines(draft.lines.map((l, n) => (n === i ? next : l)))}
                  onRemove={() => {
                    setIds(ids.filter((_, n) => n !== i));
                    setLines(draft.lines.filter((_, n) => n !== i));
                  }}
                />
              ))}
            </SortableContext>
          </DndContext>
        </Box>
      </Box>
      <TryPane trial={trial} />
      {dialog}
    </Box>
  );
}
