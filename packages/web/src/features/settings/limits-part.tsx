import { Box, Button, MenuItem, TextField } from '@mui/material';
import { foldText, type Limit, type LimitLevel, readLevelM } from '@tally/core';
import { useState } from 'react';
import { keepLimit, removeLimit } from '../../store/change-limits.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { showSiText, type UnitSystem } from '../../ui/format.ts';
import { echoLength, readTypedLength } from '../../ui/typed-length.ts';
import { Part } from './settings-part.tsx';

const ZERO = 'The model’s zero';

function describeLevel({ storey, offsetM }: LimitLevel, system: UnitSystem): string {
  const sign = offsetM < 0 ? '−' : '+';
  const offset = offsetM === 0 ? '' : ` ${sign} ${showSiText(Math.abs(offsetM), 'm', system)}`;
  return `${storey ?? ZERO}${offset}`;
}

/** A limit in words: `above Ground floor + 0.30 m, in an outline of 4 corners`. */
function describeLimit({ above, below, outline }: Limit, system: UnitSystem): string {
  return [
    above && `above ${describeLevel(above, system)}`,
    below && `below ${describeLevel(below, system)}`,
    outline && `in an outline of ${outline.length / 2} corners`,
  ]
    .filter(Boolean)
    .join(', ');
}

/** Parts of the building that quantities can be limited to. */
export function LimitsPart() {
  const { project, layer } = useProjectState('project', 'layer');
  const basis = useBasis('settings');
  const change = useCommit(project.id);
  const [isAdding, setAdding] = useState(false);
  return (
    <Part
      title="Limits"
      note={
        'Parts of the building that a quantity can be limited to: in a formula as within("Name", NetVolume), in Takeoff by picking. An outline is drawn in the model on the plan of rooms.'
      }
    >
      {layer.limits.map((limit) => (
        <Box key={limit.name} sx={{ display: 'flex', alignItems: 'center', gap: 2, fontSize: 13 }}>
          <Box sx={{ fontWeight: 600, minWidth: 120 }}>{limit.name}</Box>
          <Box sx={{ flex: 1, color: 'text.secondary' }}>{describeLimit(limit, basis.settings.units)}</Box>
          <Button color="inherit" onClick={() => change.mutate(removeLimit(limit))}>
            Remove
          </Button>
        </Box>
      ))}
      {isAdding ? (
        <LimitForm
          known={layer.limits}
          onClose={() => setAdding(false)}
          onKeep={(limit) => change.mutate(keepLimit(layer.limits, limit), { onSuccess: () => setAdding(false) })}
        />
      ) : (
        <Box>
          <Button onClick={() => setAdding(true)}>Add a limit</Button>
        </Box>
      )}
    </Part>
  );
}

interface LevelDraft {
  readonly storey: string;
  readonly offset: string;
}
const NONE = 'No bound';

function LimitForm({
  known,
  onKeep,
  onClose,
}: {
  readonly known: readonly Limit[];
  readonly onKeep: (limit: Limit) => void;
  readonly onClose: () => void;
}) {
  const { models } = useElements();
  const system = useBasis('settings').settings.units;
  const storeys = [...new Set(models.flatMap((m) => m.table.storeys.map((s) => s.name)))];
  const [name, setName] = useState('');
  const [above, setAbove] = useState<LevelDraft>({ storey: NONE, offset: '0 m' });
  const [below, setBelow] = useState<LevelDraft>({ storey: NONE, offset: '0 m' });
  const read = ({ storey, offset }: LevelDraft): LimitLevel | null => {
    const metres = readTypedLength(offset, system);
    return storey === NONE || !metres.ok ? null : { storey: storey === ZERO ? null : storey, offsetM: metres.value };
  };
  const isTaken = known.some((l) => foldText(l.name) === foldText(name));
  const [from, to] = [read(above), read(below)];
  // A bound that cannot be read is no missing one.
  const isUnread = (above.storey !== NONE && !from) || (below.storey !== NONE && !to);
  const [low, high] = [from, to].map(
    (level) =>
      level &&
      readLevelM(
        level,
        models.flatMap((m) => m.table.storeys),
      ),
  );
  const isEmpty = low != null && high != null && low >= high;
  return (
    <Box sx={{ display: 'grid', gap: 1, borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
      <TextField
        label="Name of the limit"
        value={name}
        error={isTaken}
        helperText={isTaken ? 'There is a limit of this name.' : undefined}
        onChange={(e) => setName(e.target.value)}
      />
      <LevelFields label="Above" value={above} storeys={storeys} onChange={setAbove} />
      <LevelFields label="Below" value={below} storeys={storeys} onChange={setBelow} />
      {isEmpty && (
        <Box role="alert" sx={{ fontSize: 13, color: 'error.main' }}>
          Nothing lies between: the upper level is not above the lower one.
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1, justifyContent: 'flex-end' }}>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button
          variant="contained"
          disabled={name.trim() === '' || isTaken || isUnread || isEmpty || (!from && !to)}
          onClick={() => onKeep({ name: name.trim(), ...(from ? { above: from } : {}), ...(to ? { below: to } : {}) })}
        >
          Keep the limit
        </Button>
      </Box>
    </Box>
  );
}

function LevelFields({
  label,
  value,
  storeys,
  onChange,
}: {
  readonly label: string;
  readonly value: LevelDraft;
  readonly storeys: readonly string[];
  readonly onChange: (value: LevelDraft) => void;
}) {
  const isOff = value.storey === NONE;
  const system = useBasis('settings').settings.units;
  const metres = readTypedLength(value.offset, system);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 140px', gap: 1 }}>
      <TextField
        select
        label={`${label} the level of`}
        value={value.storey}
        onChange={(e) => onChange({ ...value, storey: e.target.value })}
      >
        {[NONE, ZERO, ...storeys].map((s) => (
          <MenuItem key={s} value={s}>
            {s}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        label={`${label}: plus`}
        disabled={isOff}
        value={value.offset}
        error={!isOff && !metres.ok}
        helperText={isOff ? undefined : metres.ok ? echoLength(value.offset, system) : metres.problem.remedy}
        onChange={(e) => onChange({ ...value, offset: e.target.value })}
      />
    </Box>
  );
}
