import { Box } from '@mui/material';
import { findQuantity, readElement, readText } from '@tally/core';
import { useMemo } from 'react';
import { type LoadedModel, useProjectState } from '../../api/project-context.tsx';
import { useSelection } from '../../api/selection.tsx';
import { showSi, type UnitSystem } from '../../ui/format.ts';

interface DrawnRoom {
  readonly key: number;
  readonly name: string;
  readonly finish: string | null;
  readonly area: number | null;
  readonly points: readonly (readonly [number, number])[];
}

/** Hatchings that tell finishes apart without colour. */
const PATTERNS = ['M0 8 8 0', 'M0 0 8 8', 'M0 4H8', 'M4 0V8', 'M0 4H8M4 0V8', 'M0 8 8 0M0 0 8 8'] as const;

/** The rooms of a storey as areas, hatched by floor finish; a click selects, Ctrl or ⌘ adds. */
export function RoomPlanView({
  models,
  storey,
}: {
  readonly models: readonly LoadedModel[];
  readonly storey: string | null;
}) {
  const { basis } = useProjectState();
  const { keys, select } = useSelection();
  const rooms = useMemo(() => listRooms(models, storey), [models, storey]);
  const finishes = [...new Set(rooms.map((r) => r.finish))].sort((a, b) => (a ?? '').localeCompare(b ?? ''));
  const system = basis.settings.units as UnitSystem;
  if (rooms.length === 0)
    return (
      <Box sx={{ p: 2, fontSize: 13, color: 'text.secondary' }}>
        {storey ? `${storey} has no rooms in the model. Choose another storey.` : 'The model has no rooms.'}
      </Box>
    );
  const xs = rooms.flatMap((r) => r.points.map((p) => p[0]));
  const ys = rooms.flatMap((r) => r.points.map((p) => p[1]));
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const margin = Math.max(x1 - x0, y1 - y0) * 0.04 + 0.2;
  const text = Math.max(x1 - x0, y1 - y0) / 62;
  const areaOf = (finish: string | null) =>
    rooms.filter((r) => r.finish === finish).reduce((sum, r) => sum + (r.area ?? 0), 0);
  const show = (area: number) => {
    const { figure, unit } = showSi(area, 'm2', system);
    return `${figure} ${unit}`;
  };
  return (
    <Box sx={{ position: 'absolute', inset: 0, display: 'flex', flexDirection: 'column' }}>
      <Box
        component="svg"
        role="group"
        aria-label={`Rooms of ${storey}`}
        viewBox={`${x0 - margin} ${-y1 - margin} ${x1 - x0 + 2 * margin} ${y1 - y0 + 2 * margin}`}
        sx={{ flex: 1, minHeight: 0, width: '100%' }}
      >
        <defs>
          {finishes.map((finish, i) =>
            finish === null ? null : (
              <pattern
                key={finish}
                id={`finish-${i}`}
                width="8"
                height="8"
                patternUnits="userSpaceOnUse"
                patternTransform={`scale(${text / 9})`}
              >
                <Box
                  component="path"
                  d={PATTERNS[i % PATTERNS.length]}
                  sx={{ stroke: (t) => t.vars!.palette.tally.priced, strokeWidth: 1, fill: 'none' }}
                />
              </pattern>
            ),
          )}
        </defs>
        {rooms.map((room) => {
          const isChosen = keys.has(room.key);
          const at = room.points.map(([x, y]) => `${x},${-y}`).join(' ');
          const [cx, cy] = [0, 1].map((k) => room.points.reduce((sum, p) => sum + p[k]!, 0) / room.points.length) as [
            number,
            number,
          ];
          return (
            <Box
              component="g"
              key={room.key}
              role="button"
              aria-label={room.name}
              aria-pressed={isChosen}
              tabIndex={0}
              onClick={(e: React.MouseEvent) =>
                select([room.key], e.ctrlKey || e.metaKey || e.shiftKey ? 'toggle' : 'replace')
              }
              onKeyDown={(e: React.KeyboardEvent) =>
                e.key === 'Enter' && select([room.key], e.shiftKey ? 'toggle' : 'replace')
              }
              sx={{
                cursor: 'pointer',
                outline: 'none',
                '&:focus-visible': { '& polygon:last-of-type': { strokeWidth: text / 4 } },
              }}
            >
              <Box
                component="polygon"
                points={at}
                sx={{
                  fill: (t) =>
                    isChosen
                      ? t.vars!.palette.tally.selectionSoft
                      : room.finish === null
                        ? t.vars!.palette.tally.unpricedSoft
                        : t.vars!.palette.background.paper,
                }}
              />
              <Box
                component="polygon"
                points={at}
                fill={room.finish === null ? 'none' : `url(#finish-${finishes.indexOf(room.finish)})`}
                sx={{
                  stroke: (t) => (isChosen ? t.vars!.palette.tally.selection : t.vars!.palette.text.primary),
                  strokeWidth: isChosen ? text / 5 : text / 12,
                }}
              />
              <Box
                component="text"
                x={cx}
                y={-cy}
                sx={{
                  fontSize: text,
                  fontWeight: 650,
                  textAnchor: 'middle',
                  fill: (t) => t.vars!.palette.text.primary,
                  paintOrder: 'stroke',
                  stroke: (t) => t.vars!.palette.background.paper,
                  strokeWidth: text / 4,
                }}
              >
                {room.name}
              </Box>
              <Box
                component="text"
                x={cx}
                y={-cy + text * 1.3}
                sx={{
                  fontSize: text * 0.9,
                  textAnchor: 'middle',
                  fill: (t) => t.vars!.palette.text.secondary,
                  paintOrder: 'stroke',
                  stroke: (t) => t.vars!.palette.background.paper,
                  strokeWidth: text / 4,
                }}
              >
                {room.area === null ? 'not measured' : show(room.area)}
              </Box>
            </Box>
          );
        })}
      </Box>
      <Box
        component="ul"
        aria-label="Floor finishes"
        sx={{
          listStyle: 'none',
          m: 0,
          px: 1.5,
          py: 1,
          display: 'flex',
          flexWrap: 'wrap',
          columnGap: 2,
          borderTop: 1,
          borderColor: 'divider',
          fontSize: 12.5,
        }}
      >
        {finishes.map((finish) => (
          <Box component="li" key={finish ?? ''} sx={{ color: finish === null ? 'text.primary' : 'text.secondary' }}>
            <Box
              component="button"
              type="button"
              onClick={() => select(rooms.filter((r) => r.finish === finish).map((r) => r.key))}
              sx={{
                all: 'unset',
                cursor: 'pointer',
                '&:hover': { textDecoration: 'underline' },
                '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
              }}
            >
              {finish ?? 'none assigned'} {show(areaOf(finish))}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

function listRooms(models: readonly LoadedModel[], storey: string | null): DrawnRoom[] {
  return models.flatMap(({ table }) =>
    table.roomPlans
      .filter(({ row }) => readText(table.storey, row) === storey)
      .map(({ row, points }): DrawnRoom => {
        const e = readElement(table, row);
        const area = findQuantity(e, 'NetFloorArea', 'measured') ?? findQuantity(e, 'NetFloorArea', 'stated');
        return {
          key: table.keys[row]!,
          name: e.name ?? 'Room',
          finish: e.finishes?.floor ?? null,
          area: area?.value ?? null,
          points: Array.from({ length: points.length / 2 }, (_, i) => [points[2 * i]!, points[2 * i + 1]!] as const),
        };
      }),
  );
}
