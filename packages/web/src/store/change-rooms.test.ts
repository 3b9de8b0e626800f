import { sampleLayer } from '../testing/sample-layer.ts';
import { keepLimit, removeLimit } from './change-limits.ts';
import { divideRoom, drawRoom, joinRooms, leaveOutRooms, type PlanRoom, takeInRooms } from './change-rooms.ts';

const ring = (x: number) => [x, 0, x + 4, 0, x + 4, 3, x, 3];
const room = (key: number, more: Partial<PlanRoom> = {}): PlanRoom => ({
  key,
  name: `Room ${key}`,
  storey: 'Ground floor',
  rings: [ring(key)],
  holes: [],
  bottomM: 0,
  topM: 2.5,
  finishes: { floor: 'Oak', wall: null, ceiling: null, skirting: null },
  ...more,
});
const drawn = { name: 'Room', storey: null, rings: [ring(0)], bottomM: 0, topM: 2.5 };

describe('rooms on the plan', () => {
  it('are drawn under a key that no model has', () => {
    const { diff, cause } = drawRoom(drawn);
    expect(cause).toBe('Room drawn: Room');
    expect(diff.added).toMatchObject([{ kind: 'drawnRoom', body: drawn }]);
    expect(Number(diff.added[0]!.id)).toBeLessThan(0);
  });
  it('of a model are left out when they are divided; the pieces have their finishes, parts of single walls stay behind', () => {
    const own = sampleLayer({
      wallFinishes: {
        1: [
          { finish: 'Tiles', toM: 2 },
          { finish: 'Cork', walls: [0] },
        ],
      },
    });
    const { diff } = divideRoom(own, room(1), [ring(0), ring(2)]);
    expect(diff.removed).toEqual([]);
    expect(diff.added[0]).toEqual({ kind: 'leftOut', id: '1', body: { reason: 'Divided here' } });
    const pieces = diff.added.filter((a) => a.kind === 'drawnRoom');
    expect(pieces.map((p) => (p.body as typeof drawn).name)).toEqual(['Room 1 1', 'Room 1 2']);
    for (const { id } of pieces) {
      expect(diff.added).toContainEqual({ kind: 'finishes', id, body: { floor: 'Oak' } });
      expect(diff.added).toContainEqual({ kind: 'wallFinishes', id, body: [{ finish: 'Tiles', toM: 2 }] });
    }
  });
  it('drawn here go with all that hangs on them when they are joined; the new one spans their heights', () => {
    const own = sampleLayer({
      drawnRooms: { '-5': drawn },
      zones: { '-5': ['Wet'] },
      finishes: { '-5': { wall: 'Tiles' } },
    });
    const { diff, cause } = joinRooms(own, [room(1), room(-5, { bottomM: -0.2, topM: 3 })]);
    expect(cause).toBe('Rooms joined: Room 1, Room -5');
    expect(diff.removed.map((r) => `${r.kind}/${r.id}`)).toEqual(['drawnRoom/-5', 'finishes/-5', 'zones/-5']);
    expect(diff.added.find((a) => a.kind === 'drawnRoom')!.body).toMatchObject({
      name: 'Room 1',
      rings: [ring(1), ring(-5)],
      bottomM: -0.2,
      topM: 3,
    });
  });
  it('keep the columns in them when they are joined', () => {
    const column = [2, 1, 2.4, 1, 2.4, 1.4, 2, 1.4];
    const { diff } = joinRooms(sampleLayer(), [room(1), room(2, { holes: [column] })]);
    expect(diff.added.find((a) => a.kind === 'drawnRoom')!.body).toMatchObject({ rings: [ring(1), ring(2)], holes: [column] }); // biome-ignore format: one body
    const bare = joinRooms(sampleLayer(), [room(1), room(2)]);
    expect(bare.diff.added.find((a) => a.kind === 'drawnRoom')!.body).not.toHaveProperty('holes');
  });
  it('are left out and taken in again', () => {
    const out = leaveOutRooms(sampleLayer(), [room(1), room(2)]);
    expect(out.diff.added.map((a) => a.id)).toEqual(['1', '2']);
    const back = takeInRooms(sampleLayer({ leftOut: { 1: 'Left out here' } }), [room(1), room(2)]);
    expect(back.diff.removed).toEqual([{ kind: 'leftOut', id: '1', body: { reason: 'Left out here' } }]);
  });
});

describe('limits', () => {
  const limit = { name: 'Plinth', below: { storey: null, offsetM: 0.5 } };
  it('are kept by their name in any case, and replaced', () => {
    expect(keepLimit([], limit).diff).toEqual({ added: [{ kind: 'limit', id: 'plinth', body: limit }] });
    const higher = { name: 'PLINTH', below: { storey: null, offsetM: 0.8 } };
    expect(keepLimit([limit], higher).diff).toEqual({
      updated: [{ kind: 'limit', id: 'plinth', from: limit, to: higher }],
    });
    expect(removeLimit(limit).diff).toEqual({ removed: [{ kind: 'limit', id: 'plinth', body: limit }] });
  });
});
