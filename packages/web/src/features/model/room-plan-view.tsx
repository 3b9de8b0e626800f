import { Box, Button } from '@mui/material';
import { ringToPoints, splitPolygon, type Vector2 } from '@tally/core';
import { type MouseEvent, useMemo, useRef, useState } from 'react';
import { keepLimit } from '../../store/change-limits.ts';
import { divideRoom, drawRoom, joinRooms, leaveOutRooms, takeInRooms } from '../../store/change-rooms.ts';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useSelection } from '../../store/selection.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { showSiText, type UnitSystem } from '../../ui/format.ts';
import { readTypedLength } from '../../ui/typed-length.ts';
import { boundPlan, findUsualHeight, listPlanRooms } from './list-plan-rooms.ts';
import { RoomShape } from './room-shape.tsx';
import { type PlanTool, RoomToolbar } from './room-toolbar.tsx';

/** Hatchings that tell finishes apart without colour. */
const PATTERNS = ['M0 8 8 0', 'M0 0 8 8', 'M0 4H8', 'M4 0V8', 'M0 4H8M4 0V8', 'M0 8 8 0M0 0 8 8'] as const;
/** Points snap to corners within this, else to this grid, m. */
const SNAP_M = 0.4;
const GRID_M = 0.05;

const USUAL_NAMES = { draw: 'New room', limit: 'New limit', divide: '' } as const;

/** The rooms of a storey as areas, hatched by floor finish: selected, divided, joined, drawn and left out here. */
export function RoomPlanView({
  models,
  storey,
}: {
  readonly models: readonly LoadedModel[];
  readonly storey: string | null;
}) {
  const { project, layer } = useProjectState('project', 'layer');
  const basis = useBasis('settings');
  const { keys, select } = useSelection();
  const change = useCommit(project.id);
  const svg = useRef<SVGSVGElement>(null);
  const [tool, setTool] = useState<PlanTool | null>(null);
  const [points, setPoints] = useState<readonly Vector2[]>([]);
  const [name, setName] = useState('New room');
  /** Height of a room that is drawn, as it was typed; null while it is as usual here. */
  const [typedHeight, setTypedHeight] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const rooms = useMemo(() => listPlanRooms(models, storey), [models, storey]);
  const system = basis.settings.units;
  const bounds = useMemo(() => boundPlan(rooms, models, storey), [rooms, models, storey]);
  const level = models.flatMap((m) => m.table.storeys).find((s) => s.name === storey)?.elevation ?? 0;
  const chosen = rooms.filter((r) => keys.has(r.key));
  const counted = rooms.filter((r) => !r.isLeftOut);
  const finishes = [...new Set(counted.map((r) => r.finishes.floor))].sort((a, b) => (a ?? '').localeCompare(b ?? ''));
  const show = (area: number) => showSiText(area, 'm2', system);
  const showAreaOf = (finish: string | null) => {
    const areas = counted.flatMap((r) => (r.finishes.floor === finish ? [r.areaM2] : []));
    const known = areas.filter((area) => area !== null);
    const without = areas.length - known.length;
    if (known.length === 0) return 'not measured';
    const sum = show(known.reduce((total, area) => total + area, 0));
    return without === 0 ? sum : `${sum} without ${without === 1 ? 'one room' : `${without} rooms`} not measured`;
  };
  const usual = findUsualHeight(rooms);
  const height =
    typedHeight ?? (usual ? showSiText(usual.topM - usual.bottomM, 'm', system === 'both' ? 'metric' : system) : '');
  const heightM = typedHeight === null ? usual && usual.topM - usual.bottomM : readHeight(typedHeight, system);
  if (!bounds)
    return (
      <Box sx={{ p: 2, fontSize: 13, color: 'text.secondary' }}>
        {storey ? `${storey} has no rooms in the model. Choose another storey.` : 'The model has no rooms.'}
      </Box>
    );
  const { x0, x1, y0, y1 } = bounds;
  const text = Math.max(x1 - x0, y1 - y0) / 62;
  const margin = text * 3;

  const stop = () => {
    setTool(null);
    setPoints([]);
  };
  const begin = (next: PlanTool) => {
    setName(USUAL_NAMES[next]);
    setTypedHeight(null);
    setProblem(null);
    setPoints([]);
    setTool(tool === next ? null : next);
  };
  const placeOf = (e: MouseEvent): Vector2 => {
    const matrix = svg.current!.getScreenCTM()!.inverse();
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
    const at: Vector2 = [p.x, -p.y];
    const corners = rooms.flatMap((r) => [...r.rings, ...r.holes].flatMap(ringToPoints));
    const distance = (c: Vector2) => Math.hypot(c[0] - at[0], c[1] - at[1]);
    const nearest = [...corners, ...points].sort((a, b) => distance(a) - distance(b))[0];
    if (nearest && distance(nearest) < SNAP_M) return nearest;
    return [Math.round(at[0] / GRID_M) * GRID_M, Math.round(at[1] / GRID_M) * GRID_M];
  };
  const finishDrawing = (ring: readonly Vector2[]) => {
    if (ring.length < 3) return;
    // By its first corner an outline is closed beside the button that asks for the name.
    if (name.trim() === '') return setProblem('Name it first.');
    if (tool === 'limit') {
      const limit = { name: name.trim(), outline: ring.flat() };
      // What is refused stays drawn.
      return change.mutate(keepLimit(layer.limits, limit), { onSuccess: stop });
    }
    if (heightM === null) return setProblem('Say how high the room is, for example 2.5 m.');
    const bottomM = usual?.bottomM ?? level;
    change.mutate(drawRoom({ name: name.trim(), storey, rings: [ring.flat()], bottomM, topM: bottomM + heightM }), {
      onSuccess: stop,
    });
  };
  const onClick = (e: MouseEvent) => {
    if (!tool) return;
    const at = placeOf(e);
    if (tool !== 'divide') {
      const [first] = points;
      const closes = first && points.length > 2 && Math.hypot(first[0] - at[0], first[1] - at[1]) < 1e-6;
      if (closes) finishDrawing(points);
      else setPoints([...points, at]);
      return;
    }
    if (points.length === 0) return setPoints([at]);
    const [room] = chosen;
    if (room && room.rings.length > 1) {
      setProblem('A room of several outlines cannot be divided. Leave it out and draw its pieces.');
      return stop();
    }
    if (room?.holes.some((hole) => crossesLine(ringToPoints(hole), points[0]!, at))) {
      setProblem('The line runs through a column or court of the room. Divide it beside that.');
      return stop();
    }
    const pieces = room ? splitPolygon(ringToPoints(room.rings[0]!), points[0]!, at) : null;
    if (room && pieces) {
      change.mutate(
        divideRoom(
          layer,
          room,
          pieces.map((p) => p.flat()),
        ),
      );
      setProblem(null);
    } else setProblem('The line does not cut the room in two. Click two places on opposite sides of it.');
    stop();
  };
  return (
    <Box sx={{ position: 'absolute', inset: 0, display: 'flex', flexDirection: 'column' }}>
      <RoomToolbar
        tool={tool}
        points={points.length}
        name={name}
        height={height}
        isHeightWrong={heightM === null && height !== ''}
        problem={problem}
        canDivide={chosen.length === 1 && !chosen[0]!.isLeftOut}
        onTool={begin}
        onName={(next) => {
          setName(next);
          setProblem(null);
        }}
        onHeight={(next) => {
          setTypedHeight(next);
          setProblem(null);
        }}
        onFinish={() => finishDrawing(points)}
      >
        <Button
          color="inherit"
          disabled={chosen.length < 2 || chosen.some((r) => r.isLeftOut)}
          onClick={() => {
            change.mutate(joinRooms(layer, chosen), { onSuccess: () => select([]) });
          }}
        >
          Join
        </Button>
        {chosen.length > 0 && chosen.every((r) => r.isLeftOut) ? (
          <Button color="inherit" onClick={() => change.mutate(takeInRooms(layer, chosen))}>
            Take in again
          </Button>
        ) : (
          <Button
            color="inherit"
            disabled={chosen.length === 0 || chosen.some((r) => r.isLeftOut)}
            onClick={() => change.mutate(leaveOutRooms(layer, chosen))}
          >
            Leave out
          </Button>
        )}
      </RoomToolbar>
      <Box
        component="svg"
        ref={svg}
        role="group"
        aria-label={`Rooms of ${storey}`}
        viewBox={`${x0 - margin} ${-y1 - margin} ${x1 - x0 + 2 * margin} ${y1 - y0 + 2 * margin}`}
        onClick={onClick}
        sx={{ flex: 1, minHeight: 0, width: '100%', cursor: tool ? 'crosshair' : undefined }}
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
        {rooms.map((room) => (
          <RoomShape
            key={room.key}
            room={room}
            text={text}
            isChosen={keys.has(room.key)}
            isIdle={tool !== null}
            area={room.areaM2 === null ? 'not measured' : show(room.areaM2)}
            hatch={room.finishes.floor === null ? null : `url(#finish-${finishes.indexOf(room.finishes.floor)})`}
            onChoose={(isAdding) => select([room.key], isAdding ? 'toggle' : 'replace')}
          />
        ))}
        {layer.limits.map(({ name: own, outline }) =>
          outline ? (
            <Box component="g" key={own} sx={{ pointerEvents: 'none' }}>
              <Box
                component="polygon"
                points={ringToPoints(outline)
                  .map(([x, y]) => `${x},${-y}`)
                  .join(' ')}
                sx={{
                  fill: 'none',
                  stroke: (t) => t.vars!.palette.tally.petrol,
                  strokeWidth: text / 6,
                  strokeDasharray: `${text} ${text / 3}`,
                }}
              />
              <Box
                component="text"
                x={outline[0]}
                y={-outline[1]! - text / 3}
                sx={{ fontSize: text * 0.9, fill: (t) => t.vars!.palette.tally.petrol }}
              >
                {own}
              </Box>
            </Box>
          ) : null,
        )}
        {points.length > 0 && (
          <Box
            component="polyline"
            points={points.map(([x, y]) => `${x},${-y}`).join(' ')}
            sx={{
              fill: 'none',
              stroke: (t) => t.vars!.palette.tally.selection,
              strokeWidth: text / 5,
              strokeDasharray: `${text / 2} ${text / 4}`,
            }}
          />
        )}
        {points.map(([x, y], i) => (
          <Box
            component="circle"
            key={i}
            cx={x}
            cy={-y}
            r={text / 3}
            sx={{ fill: (t) => t.vars!.palette.tally.selection }}
          />
        ))}
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
              onClick={() => select(counted.filter((r) => r.finishes.floor === finish).map((r) => r.key))}
              sx={{
                all: 'unset',
                cursor: 'pointer',
                '&:hover': { textDecoration: 'underline' },
                '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
              }}
            >
              {finish ?? 'none assigned'} {showAreaOf(finish)}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** True if a ring lies on both sides of the line through two points. */
function crossesLine(ring: readonly Vector2[], [ax, ay]: Vector2, [bx, by]: Vector2): boolean {
  const sides = ring.map(([x, y]) => Math.sign((bx - ax) * (y - ay) - (by - ay) * (x - ax)));
  return sides.includes(1) && sides.includes(-1);
}

/** A height that a room can have, m; null for none. */
function readHeight(text: string, system: UnitSystem): number | null {
  const height = readTypedLength(text, system);
  return height.ok && height.value > 0 ? height.value : null;
}
