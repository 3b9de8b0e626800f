import { Box, Button, MenuItem, TextField } from '@mui/material';
import {
  classWord,
  FACT_FIELDS,
  type FactField,
  findClassByWord,
  listProductClasses,
  readFact,
  sayInWords,
} from '@tally/core';
import { useMemo } from 'react';
import { changeFact, withdrawFacts } from '../../store/change-layer.ts';
import { readAuthorName } from '../../store/client.ts';
import type { LoadedModels } from '../../store/loaded-models.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { TextChoice } from '../../ui/text-choice.tsx';
import { Section } from './sheet-section.tsx';

const TRUTHS: readonly FactField[] = ['loadBearing', 'isExternal'];
const SEVERAL = 'several';

/** Facts about one or many elements that the file may have wrong: each can be said otherwise here, marked, and taken back. */
export function FactSection({ keys }: { readonly keys: readonly number[] }) {
  const { project, layer } = useProjectState('project', 'layer');
  const models = useElements();
  const change = useCommit(project.id);
  const options = useFactOptions(models);
  const corrected = keys.filter((key) => layer.facts[String(key)]);
  const give = (field: FactField, value: string | boolean | undefined) =>
    refusalOf(change.mutateAsync(changeFact(layer, keys, field, value, readAuthorName() || 'Estimator')));
  return (
    <Section title="Facts">
      <Box sx={{ display: 'grid', gap: 1, pt: 0.75 }}>
        {FACT_FIELDS.map(({ field, words }) => {
          const shown = shareFact(models, keys, field, 'table');
          const inFile = shareFact(models, keys, field, 'plain');
          const isGiven = keys.some((key) => layer.facts[String(key)]?.[field] !== undefined);
          const note = isGiven ? `in the file: ${sayInWords(showFact(inFile))}` : undefined;
          const label = isGiven ? `${words}, given here` : words;
          if (TRUTHS.includes(field))
            return (
              <TextField
                key={field}
                select
                label={label}
                helperText={note}
                value={shown === true ? 'yes' : shown === false ? 'no' : ''}
                onChange={(e) => void give(field, e.target.value === '' ? undefined : e.target.value === 'yes')}
              >
                <MenuItem value="">{shown === SEVERAL ? SEVERAL : 'as in the file'}</MenuItem>
                <MenuItem value="yes">yes</MenuItem>
                <MenuItem value="no">no</MenuItem>
              </TextField>
            );
          const say = async (typed: string) => {
            const value = field === 'ifcClass' && typed !== SEVERAL ? (findClassByWord(typed) ?? typed) : typed;
            if (value === (shown ?? '') || value === SEVERAL) return null;
            return give(field, value === '' || value === inFile ? undefined : value);
          };
          // Left as it is shown, a class stays what it is, though several have one word.
          const word = field === 'ifcClass' ? classWord(String(shown ?? '')) : String(shown ?? '');
          return (
            <TextChoice
              key={`${field}${keys.join()}`}
              label={label}
              note={note}
              placeholder="not said"
              shown={word}
              options={options[field] ?? []}
              onSay={say}
            />
          );
        })}
        {corrected.length > 0 && (
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 12.5, color: 'text.secondary' }}>
            <Box sx={{ flex: 1 }}>{describeHand(corrected.map((key) => layer.facts[String(key)]!))}</Box>
            <Button color="inherit" onClick={() => change.mutate(withdrawFacts(layer, corrected))}>
              As in the file
            </Button>
          </Box>
        )}
      </Box>
    </Section>
  );
}

function describeHand(facts: readonly { readonly by?: string; readonly at?: string }[]): string {
  const hands = [...new Set(facts.map((f) => [f.by, f.at].filter(Boolean).join(', ')))].filter(Boolean);
  return hands.length === 1 ? `corrected by ${hands[0]}` : `corrected ${facts.length} times`;
}

const showFact = (value: string | boolean | null): string =>
  value === true ? 'yes' : value === false ? 'no' : (value ?? 'not said');

/** A fact that all elements share, as the project sees them or as the file has them; "several" if they differ. */
function shareFact(
  { find }: LoadedModels,
  keys: readonly number[],
  field: FactField,
  from: 'table' | 'plain',
): string | boolean | null {
  const values = new Set(
    keys.map((key) => {
      const place = find(key);
      return place ? readFact(place.model[from], place.row, field) : null;
    }),
  );
  return values.size === 1 ? [...values][0]! : SEVERAL;
}

function useFactOptions({ models }: LoadedModels): Partial<Record<FactField, string[]>> {
  return useMemo(() => {
    const pool = (read: (t: (typeof models)[number]['table']) => readonly string[]) =>
      [...new Set(models.flatMap((m) => [...read(m.table)]))].sort();
    return {
      storey: [...new Set(models.flatMap((m) => m.table.storeys.map((s) => s.name)))],
      ifcClass: [...new Set(listProductClasses().map(classWord))].sort(),
      typeName: pool((t) => t.typeName.pool),
      material: pool((t) => t.materials.pool),
    };
  }, [models]);
}
