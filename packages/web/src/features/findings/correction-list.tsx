import { Box, Button, Typography } from '@mui/material';
import { type Correction, FACT_FIELDS, listCorrections, readText, sayClass } from '@tally/core';
import { useMemo } from 'react';
import { withdrawFacts } from '../../store/change-layer.ts';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { useSelection } from '../../store/selection.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { saveText, toCsv } from '../../ui/save-file.ts';

interface ShownCorrection extends Correction {
  readonly model: LoadedModel;
  readonly key: number;
}

const COLUMNS = ['GlobalId', 'Class', 'Name', 'Fact', 'In the file', 'Right is', 'By', 'On'];
const WORDS = new Map(FACT_FIELDS.map((f) => [f.field, f.words]));
const showFact = (value: string | boolean | null): string =>
  value === true ? 'yes' : value === false ? 'no' : (value ?? '');

/** Facts that were corrected here, to be told to the designers; each can be withdrawn. */
export function CorrectionList() {
  const { project, layer } = useProjectState('project', 'layer');
  const { models } = useElements();
  const change = useCommit(project.id);
  const { select } = useSelection();
  const list = useMemo(() => {
    const facts = new Map(Object.entries(layer.facts).map(([key, f]) => [Number(key), f]));
    return models.flatMap((model) =>
      listCorrections(model.plain, facts).map((c): ShownCorrection => ({ ...c, model, key: model.plain.keys[c.row]! })),
    );
  }, [models, layer.facts]);
  const toCells = ({ model, row, key, field, inFile, given }: ShownCorrection): string[] => {
    const hand = layer.facts[String(key)];
    const text = (column: Parameters<typeof readText>[0]) => readText(column, row) ?? '';
    const { plain } = model;
    return [text(plain.identity), text(plain.ifcClass), text(plain.name), WORDS.get(field)!, showFact(inFile), showFact(given), hand?.by ?? '', hand?.at ?? '']; // biome-ignore format: one row
  };
  const keys = [...new Set(list.map((c) => c.key))];
  return (
    <Box
      component="section"
      aria-label="Corrected here"
      sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}
    >
      <Box sx={{ px: 2, py: 1, display: 'flex', gap: 2, alignItems: 'baseline' }}>
        <Typography variant="h2">Corrected here</Typography>
        <Box sx={{ fontSize: 13, color: 'text.secondary', flex: 1 }}>
          What the files have wrong. Tell the designers; it stays until it is withdrawn.
        </Box>
        <Button onClick={() => saveText(`${project.name} corrections.csv`, toCsv([COLUMNS, ...list.map(toCells)]))}>
          Save as CSV
        </Button>
        <Button color="inherit" onClick={() => change.mutate(withdrawFacts(layer, keys))}>
          Withdraw all
        </Button>
      </Box>
      {list.map((c) => (
        <Box
          key={`${c.key}/${c.field}`}
          role="listitem"
          sx={{
            display: 'flex',
            gap: 1.5,
            alignItems: 'center',
            px: 2,
            py: 0.5,
            borderTop: 1,
            borderColor: 'divider',
            fontSize: 13,
          }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            {readText(c.model.plain.name, c.row) ?? sayClass(readText(c.model.plain.ifcClass, c.row))}:{' '}
            {WORDS.get(c.field)} <b>{showFact(c.given)}</b>
            <Box component="span" sx={{ color: 'text.secondary' }}>
              , in the file {showFact(c.inFile) || 'not said'}
            </Box>
          </Box>
          <Button onClick={() => select([c.key])}>Select</Button>
          <Button color="inherit" onClick={() => change.mutate(withdrawFacts(layer, [c.key]))}>
            Withdraw
          </Button>
        </Box>
      ))}
    </Box>
  );
}
