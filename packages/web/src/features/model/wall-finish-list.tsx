import CloseIcon from '@mui/icons-material/Close';
import { Autocomplete, Box, Button, IconButton, TextField } from '@mui/material';
import { listRoomWalls, readText, type WallFinish } from '@tally/core';
import { useState } from 'react';
import { changeWallFinishes } from '../../store/change-layer.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { showSiText } from '../../ui/format.ts';
import { echoLength, readTypedLength } from '../../ui/typed-length.ts';
import { useOneAtATime } from '../../ui/use-one-at-a-time.ts';

/** A wall around the room, as it is picked. */
interface WallChoice {
  readonly key: number;
  readonly name: string;
}

/** Parts of the walls of rooms that take finishes of their own: a height band, chosen walls, or both. The first that holds counts. */
export function WallFinishList({
  keys,
  finishes,
}: {
  readonly keys: readonly number[];
  /** Names that are in use. */
  readonly finishes: readonly string[];
}) {
  const { project, layer } = useProjectState('project', 'layer');
  const basis = useBasis('settings');
  const models = useElements();
  const change = useCommit(project.id);
  const [isAdding, setAdding] = useState(false);
  const partsOf = (key: number) => layer.wallFinishes[String(key)] ?? [];
  const parts = partsOf(keys[0]!);
  const isSame = keys.every((key) => JSON.stringify(partsOf(key)) === JSON.stringify(parts));
  const place = keys.length === 1 ? models.find(keys[0]!) : null;
  const nameOf = (key: number) => {
    const at = models.find(key);
    return (at && readText(at.model.table.name, at.row)) ?? `Wall ${key}`;
  };
  const walls = place ? listRoomWalls(place.model.table, place.row).map((key) => ({ key, name: nameOf(key) })) : [];
  const show = (metres: number) => showSiText(metres, 'm', basis.settings.units);
  const describe = ({ fromM, toM, walls: own }: WallFinish) =>
    [
      fromM !== undefined && `from ${show(fromM)}`,
      toM !== undefined && `up to ${show(toM)}`,
      own && `on ${own.map(nameOf).join(', ')}`,
    ]
      .filter(Boolean)
      .join(' ') || 'everywhere';
  const keep = (list: readonly WallFinish[]) => change.mutate(changeWallFinishes(layer, keys, list));
  return (
    <Box role="group" aria-label="Walls in parts" sx={{ display: 'grid', gap: 0.75 }}>
      {isSame ? (
        parts.map((part, i) => (
          <Box key={JSON.stringify(part)} sx={{ display: 'flex', alignItems: 'center', gap: 0.5, fontSize: 13 }}>
            <Box sx={{ flex: 1 }}>
              {part.finish ?? 'none'}{' '}
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {describe(part)}
              </Box>
            </Box>
            {i > 0 && (
              <Button
                color="inherit"
                onClick={() => keep([...parts.slice(0, i - 1), part, parts[i - 1]!, ...parts.slice(i + 1)])}
                sx={{ minWidth: 0 }}
              >
                Before
              </Button>
            )}
            <IconButton
              aria-label={`Take ${part.finish ?? 'none'} away`}
              onClick={() => keep(parts.filter((_, n) => n !== i))}
              sx={{ p: 0.25 }}
            >
              <CloseIcon sx={{ fontSize: 14 }} />
            </IconButton>
          </Box>
        ))
      ) : (
        <Box sx={{ fontSize: 13, color: 'text.secondary' }}>
          The walls of these rooms differ; a part added here replaces theirs.
        </Box>
      )}
      {isAdding ? (
        <PartForm
          finishes={finishes}
          walls={walls}
          onClose={() => setAdding(false)}
          onKeep={async (part) => {
            // What is refused stays as it was typed; why is told beside it.
            const made = changeWallFinishes(layer, keys, [...(isSame ? parts : []), part]);
            if ((await refusalOf(change.mutateAsync(made))) === null) setAdding(false);
          }}
        />
      ) : (
        <Box>
          <Button color="inherit" onClick={() => setAdding(true)}>
            Another finish on a part of the walls
          </Button>
        </Box>
      )}
    </Box>
  );
}

function PartForm({
  finishes,
  walls,
  onKeep,
  onClose,
}: {
  readonly finishes: readonly string[];
  readonly walls: readonly WallChoice[];
  readonly onKeep: (part: WallFinish) => Promise<void>;
  readonly onClose: () => void;
}) {
  const [finish, setFinish] = useState('');
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const [chosen, setChosen] = useState<readonly WallChoice[]>([]);
  const keep = useOneAtATime(onKeep);
  const system = useBasis('settings').settings.units;
  const read = (text: string) => (text.trim() === '' ? undefined : readTypedLength(text, system));
  const [low, high] = [read(from), read(to)];
  const isWrong = (length: ReturnType<typeof read>) => length !== undefined && (!length.ok || length.value < 0);
  const isUpsideDown = low?.ok && high?.ok && low.value >= high.value;
  const canKeep = finish.trim() !== '' && !isWrong(low) && !isWrong(high) && !isUpsideDown;
  return (
    <Box sx={{ display: 'grid', gap: 1, borderTop: 1, borderColor: 'divider', pt: 1 }}>
      <Autocomplete
        freeSolo
        disableClearable
        options={finishes}
        inputValue={finish}
        onInputChange={(_, text) => setFinish(text)}
        renderInput={(p) => <TextField {...p} label="Finish of the part" />}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        <TextField
          label="From"
          placeholder="the floor"
          value={from}
          error={isWrong(low)}
          helperText={echoLength(from, system)}
          onChange={(e) => setFrom(e.target.value)}
        />
        <TextField
          label="Up to"
          placeholder="the ceiling"
          value={to}
          error={isWrong(high) || isUpsideDown}
          helperText={isUpsideDown ? 'It ends below where it begins.' : echoLength(to, system)}
          onChange={(e) => setTo(e.target.value)}
        />
      </Box>
      {walls.length > 0 && (
        <Autocomplete
          multiple
          disableCloseOnSelect
          options={walls}
          value={[...chosen]}
          getOptionKey={(w) => w.key}
          getOptionLabel={(w) => w.name}
          isOptionEqualToValue={(a, b) => a.key === b.key}
          onChange={(_, list) => setChosen(list)}
          renderInput={(p) => (
            <TextField {...p} label="On these walls" placeholder={chosen.length === 0 ? 'all' : ''} />
          )}
        />
      )}
      <Box sx={{ display: 'flex', gap: 1, justifyContent: 'flex-end' }}>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button
          variant="contained"
          disabled={!canKeep}
          onClick={() =>
            keep({
              finish: finish.trim(),
              ...(low?.ok ? { fromM: low.value } : {}),
              ...(high?.ok ? { toM: high.value } : {}),
              ...(chosen.length > 0 ? { walls: chosen.map((w) => w.key) } : {}),
            })
          }
        >
          Keep the part
        </Button>
      </Box>
    </Box>
  );
}
