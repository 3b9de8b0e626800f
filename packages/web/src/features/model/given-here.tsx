import CloseIcon from '@mui/icons-material/Close';
import { Autocomplete, Box, Button, IconButton, TextField } from '@mui/material';
import {
  ADDED_SET,
  dimensionToUnitName,
  FINISH_SURFACES,
  type FinishSurface,
  type FormulaName,
  foldText,
  isSameDimension,
  type ModelElement,
  readMeasure,
  siUnitToDimension,
  writeName,
} from '@tally/core';
import { useMemo, useState } from 'react';
import { askAttribute, changeFinish, changeZones, readAttribute } from '../../store/change-layer.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { useElements, useQuantityNames } from '../../store/use-elements.ts';
import { showProperty } from '../../ui/format.ts';
import { TextChoice } from '../../ui/text-choice.tsx';
import { Section } from './sheet-section.tsx';
import { WallFinishList } from './wall-finish-list.tsx';

const DIFFERENT = 'several';

/** Value that all elements share; "several" if they differ. */
function sharedValue<T>(elements: readonly ModelElement[], read: (e: ModelElement) => T): T | typeof DIFFERENT {
  const values = new Set(elements.map(read));
  return values.size === 1 ? [...values][0]! : DIFFERENT;
}

/** Finishes of rooms, given here to one or many at once. */
export function FinishSection({
  keys,
  elements,
}: {
  readonly keys: readonly number[];
  readonly elements: readonly ModelElement[];
}) {
  const { project, layer } = useProjectState('project', 'layer');
  const { models } = useElements();
  const change = useCommit(project.id);
  const known = useMemo(
    () => [...new Set(models.flatMap((m) => FINISH_SURFACES.flatMap((s) => m.table.finishes[s].pool)))].sort(),
    [models],
  );
  const give = async (surface: FinishSurface, text: string) => {
    if (text === DIFFERENT) return null;
    return refusalOf(change.mutateAsync(changeFinish(layer, keys, surface, text || null)));
  };
  const isGiven = keys.some((key) => layer.finishes[String(key)]);
  return (
    <Section title="Finishes">
      <Box sx={{ display: 'grid', gap: 1, pt: 0.75 }}>
        {FINISH_SURFACES.map((surface) => {
          const shown = sharedValue(elements, (e) => e.finishes?.[surface] ?? null);
          return (
            <TextChoice
              key={`${surface}${keys.join()}`}
              label={`${surface[0]!.toUpperCase()}${surface.slice(1)}`}
              placeholder="none assigned"
              shown={shown ?? ''}
              options={known}
              onSay={(text) => give(surface, text)}
            />
          );
        })}
        <WallFinishList keys={keys} finishes={known} />
        {isGiven && (
          <Box>
            <Button
              color="inherit"
              onClick={() => {
                const removed = keys.flatMap((key) => {
                  const body = layer.finishes[String(key)];
                  return body ? [{ kind: 'finishes', id: String(key), body }] : [];
                });
                change.mutate({ cause: 'Finishes as in the file', diff: { removed } });
              }}
            >
              As in the file
            </Button>
          </Box>
        )}
      </Box>
    </Section>
  );
}

/** Zones of our own for one or many elements; they group and filter like storeys. */
export function ZoneSection({ keys }: { readonly keys: readonly number[] }) {
  const { project, layer } = useProjectState('project', 'layer');
  const { models } = useElements();
  const change = useCommit(project.id);
  const known = useMemo(() => [...new Set(models.flatMap((m) => [...m.table.zones.pool]))].sort(), [models]);
  const shown = layer.zones[String(keys[0])] ?? [];
  const isSame = keys.every((key) => JSON.stringify(layer.zones[String(key)] ?? []) === JSON.stringify(shown));
  return (
    <Section title="Zones given here">
      <Autocomplete
        multiple
        freeSolo
        options={known}
        value={isSame ? [...shown] : []}
        onChange={(_, zones) => change.mutate(changeZones(layer, keys, zones))}
        renderInput={(p) => (
          <TextField {...p} placeholder={isSame ? 'Add a zone' : 'several; one typed here replaces them'} />
        )}
        sx={{ pt: 0.5 }}
      />
    </Section>
  );
}

/** Attributes that nobody models but that cost money, given here to one or many elements at once. */
export function AttributeSection({
  keys,
  elements,
}: {
  readonly keys: readonly number[];
  readonly elements: readonly ModelElement[];
}) {
  const { project, layer } = useProjectState('project', 'layer');
  const give = useCommit(project.id);
  const [name, setName] = useState('');
  const [value, setValue] = useState('');
  const names = [...new Set(elements.flatMap((e) => Object.keys(e.properties[ADDED_SET] ?? {})))];
  const known = useMemo(
    () => [...new Set(Object.values(layer.attributes).flatMap(Object.keys))].sort(),
    [layer.attributes],
  );
  const quantities = useQuantityNames();
  const problem = checkAttribute(name, value, quantities);
  const add = () => {
    const read = readAttribute(value);
    if (name.trim() === '' || read === undefined || problem !== null || give.isPending) return;
    const given = { keys, name: name.trim(), value: read };
    give.mutate(given, {
      onSuccess: () => {
        setName('');
        setValue('');
      },
    });
  };
  return (
    <Section title="Attributes added here">
      {names.map((n) => (
        <Box key={n} sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: 13 }}>
          <Box sx={{ color: 'text.secondary', flex: 1 }}>{n}</Box>
          <Box>{showProperty(sharedValue(elements, (e) => e.properties[ADDED_SET]?.[n] ?? 'none'))}</Box>
          <IconButton
            aria-label={`Take ${n} away`}
            onClick={() => give.mutate({ keys, name: n, value: null })}
            sx={{ p: 0.25 }}
          >
            <CloseIcon sx={{ fontSize: 14 }} />
          </IconButton>
        </Box>
      ))}
      <Box
        component="form"
        onSubmit={(e) => {
          e.preventDefault();
          add();
        }}
        sx={{ display: 'grid', gridTemplateColumns: '1fr 84px auto', gap: 0.75, mt: 0.75 }}
      >
        <Autocomplete
          freeSolo
          disableClearable
          options={known}
          inputValue={name}
          onInputChange={(_, text) => setName(text)}
          renderInput={(p) => <TextField {...p} label="Attribute" />}
        />
        <TextField
          label="Value"
          placeholder="4, 2.4 m, yes"
          value={value}
          error={problem !== null}
          onChange={(e) => setValue(e.target.value)}
        />
        <Button
          type="submit"
          disabled={name.trim() === '' || value.trim() === '' || problem !== null}
          sx={{ minWidth: 0 }}
        >
          Add
        </Button>
      </Box>
      {problem !== null && (
        <Box role="alert" sx={{ fontSize: 12.5, color: 'error.main', mt: 0.5 }}>
          {problem}
        </Box>
      )}
    </Section>
  );
}

/** A figure with a unit counts as a quantity: it must be of the kind that its name already stands for. */
function checkAttribute(name: string, value: string, quantities: readonly FormulaName[]): string | null {
  const unclear = askAttribute(value);
  if (unclear) return unclear;
  const read = readAttribute(value);
  const measure = typeof read === 'string' ? readMeasure(read) : null;
  const known = quantities.find((q) => foldText(writeName(q.name)) === foldText(writeName(name.trim())));
  if (!measure || !known || isSameDimension(known.dimension, siUnitToDimension(measure.unit))) return null;
  return `${known.name} is a figure in ${dimensionToUnitName(known.dimension)}; give it in that unit, or take another name.`;
}
