import type { Ref } from '../step-writer.ts';
import { EAVES } from './envelope.ts';
import type { Site } from './site.ts';

interface Room {
  readonly name: string;
  readonly storey: 'Ground floor' | 'Upper floor';
  readonly x: readonly [number, number];
  readonly y: readonly [number, number];
  readonly floor?: string;
  readonly wall?: string;
  readonly zone?: string;
}

/** Rooms between the faces of the walls around them; some have a finish, some none yet. */
function listRooms({ p, bay }: Site): Room[] {
  const end = p.bays * bay;
  const ground = (name: string, x: Room['x'], y: Room['y'], more: Partial<Room> = {}): Room => ({
    name,
    storey: 'Ground floor',
    x,
    y,
    ...more,
  });
  const upper = (name: string, x: Room['x'], y: Room['y'], more: Partial<Room> = {}): Room => ({
    name,
    storey: 'Upper floor',
    x,
    y,
    ...more,
  });
  const wet = { floor: p.changingFloor, wall: p.changingWall, zone: 'Wet areas' };
  return [
    ground('Boat hall', [150, 14300], [150, 14250], { floor: 'Sealed screed' }),
    ground('Workshop', [14500, 19100], [150, 7100], { floor: 'Sealed screed' }),
    ground('Store', [14500, 19100], [7300, 14250]),
    ground('Showers A', [19300, 23925], [150, 2337.5], {
      floor: 'Ceramic tiles',
      wall: 'Ceramic tiles',
      zone: 'Wet areas',
    }),
    ground('Changing A', [19300, 23925], [2462.5, 6250], wet),
    ground('Corridor', [19300, 23925], [6350, 8050], { floor: 'Vinyl sheet' }),
    ground('Changing B', [19300, 23925], [8150, 11937.5], wet),
    ground('Showers B', [19300, 23925], [12062.5, 14250], {
      floor: 'Ceramic tiles',
      wall: 'Ceramic tiles',
      zone: 'Wet areas',
    }),
    ground('Entrance hall', [24075, end - 150], [150, 14250], { floor: 'Vinyl sheet' }),
    upper('Club room', [150, 14350], [150, 6525], { floor: p.clubFloor, wall: 'Paint' }),
    upper('Kitchen', [14450, 19137.5], [150, 6525], { floor: 'Ceramic tiles', wall: 'Ceramic tiles' }),
    upper('Office', [19262.5, 23950], [150, 6525], { floor: 'Carpet tiles', wall: 'Paint' }),
    upper('Committee room', [24050, end - 150], [150, 6525]),
    upper('Landing corridor', [150, end - 150], [6675, 8125], { floor: 'Vinyl sheet' }),
    upper('Gym', [150, 14350], [8275, 14250]),
    upper('Club store', [14450, 19137.5], [8275, 14250], { floor: 'Vinyl sheet' }),
    upper('Plant room', [19262.5, 23950], [8275, 14250]),
  ];
}

export function buildRooms(site: Site): void {
  const { b, p } = site;
  const zones = new Map<string, Ref[]>();
  for (const [n, room] of listRooms(site).entries()) {
    const [w, d] = [room.x[1] - room.x[0], room.y[1] - room.y[0]];
    const height = room.storey === 'Ground floor' ? p.storeyHeight - 200 : EAVES - 100;
    const shape = b.shape([b.extrude(b.rectangle(w, d, [w / 2, d / 2]), height)]);
    const key = `room/${room.name}`;
    const number = `${room.storey === 'Ground floor' ? 'G' : 'U'}.${String(n + 1).padStart(2, '0')}`;
    const space = b.space(key, { name: room.name, number, at: [room.x[0], room.y[0], 0], shape, storey: room.storey });
    const covering = {
      ...(room.floor ? { FloorCovering: room.floor } : {}),
      ...(room.wall ? { WallCovering: room.wall } : {}),
    };
    if (Object.keys(covering).length > 0) b.properties('Pset_SpaceCoveringRequirements', covering, [space]);
    b.quantities(key, space, {
      set: 'Qto_SpaceBaseQuantities',
      lengths: { Height: height, GrossPerimeter: 2 * (w + d) },
      areas: { NetFloorArea: (w * d) / 1e6 },
    });
    if (room.zone) zones.set(room.zone, [...(zones.get(room.zone) ?? []), space]);
  }
  for (const [name, members] of zones) b.zone(name, members);
}
