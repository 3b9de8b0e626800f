/** @jest-environment jsdom */
import { buildElementTable } from '@tally/core';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleLayer } from '../../testing/sample-layer.ts';
import { sampleElement } from '../../testing/sample-table.ts';
import { RoomPlanView } from './room-plan-view.tsx';

/** What this browser lacks of drawings: a place on the plan is where it is pressed, 1 m a pixel, upwards. */
beforeAll(() => {
  Object.assign(SVGElement.prototype, { getScreenCTM: () => ({ inverse: () => null }) });
  class Point {
    constructor(
      readonly x: number,
      readonly y: number,
    ) {}
    matrixTransform = () => this;
  }
  Object.assign(globalThis, { DOMPoint: Point });
});

const floor = (value: number) => ({ name: 'NetFloorArea', value, unit: 'm2', basis: 'measured', method: 'swept', exactness: 'exact' }) as const; // biome-ignore format: one quantity
const rectangle = (x0: number, y0: number, x1: number, y1: number) => [x0, y0, x1, y0, x1, y1, x0, y1];
/** A stair of two storeys' height comes first, then two rooms of 4 x 3 m that are 2.5 m high, one not measured. */
const model = (): LoadedModel => {
  const finishes = { floor: 'Oak', wall: null, ceiling: null, skirting: null };
  const table = buildElementTable(
    [
      sampleElement('s', 'Stair', 'IfcSpace', 'Ground floor'),
      sampleElement('a', 'Store', 'IfcSpace', 'Ground floor', { quantities: [floor(12)], finishes }),
      sampleElement('b', 'Office', 'IfcSpace', 'Ground floor', { finishes }),
      sampleElement('c', 'Court', 'IfcSpace', 'Ground floor', { quantities: [floor(30)] }),
    ],
    Int32Array.of(1, 2, 3, 4),
    {
      storeys: [{ name: 'Ground floor', elevation: 0.1, gfa: null, gfaMethod: null }],
      roomPlans: [
        { row: 0, rings: [rectangle(0, 0, 2, 3)], bottomM: 0, topM: 6 },
        { row: 1, rings: [rectangle(2, 0, 6, 3)], bottomM: 0.2, topM: 2.7 },
        { row: 2, rings: [rectangle(6, 0, 10, 3)], bottomM: 0.2, topM: 2.7 },
        { row: 3, rings: [rectangle(10, 0, 16, 6)], holes: [rectangle(12, 2, 14, 4)], bottomM: 0.1, topM: 3 },
      ],
    },
  );
  return { table } as LoadedModel;
};

const DONE = { body: { projectId: 'p', seq: 8, move: null } };
function open({ models = [model()], layer = {}, units = 'metric', answer = () => DONE as { body: unknown; status?: number } } = {}) {
  const state = sampleState({ layer: sampleLayer(layer) });
  const settings = { ...state.basis.settings, units: units as 'metric' | 'imperial' };
  const drawn = renderInProject(<RoomPlanView models={models} storey="Ground floor" />, { 'POST /changes': answer }, { ...state, basis: { ...state.basis, settings } });
  return { ...drawn, sent: () => drawn.posted().filter((p) => p.what === 'POST /changes').map((p) => p.body as { cause: string; diff: { added: { kind: string; id: string; body: unknown }[] } }) };
} // biome-ignore format: one helper
const plan = () => screen.getByRole('group', { name: 'Rooms of Ground floor' });
const press = (x: number, y: number) => fireEvent.click(plan(), { clientX: x, clientY: -y });
const heightField = () => screen.getByRole<HTMLInputElement>('textbox', { name: 'Height of the room' });
const drawSquare = () => {
  for (const [x, y] of [[20, 20], [24, 20], [24, 23], [20, 23]] as const) press(x, y); // biome-ignore format: four corners
};

describe('the plan of rooms', () => {
  it('draws a room as high as most are here, not as the first one is, and says how high', async () => {
    const { sent } = open();
    await userEvent.click(screen.getByRole('button', { name: 'Draw' }));
    expect(heightField().value).toBe('2.50 m');
    drawSquare();
    await userEvent.click(screen.getByRole('button', { name: 'Close' }));
    await waitFor(() => expect(sent()).toHaveLength(1));
    expect(sent()[0]!.diff.added).toMatchObject([
      {
        kind: 'drawnRoom',
        body: { name: 'New room', storey: 'Ground floor', rings: [[20, 20, 24, 20, 24, 23, 20, 23]], bottomM: 0.2 },
      },
    ]);
    expect((sent()[0]!.diff.added[0]!.body as { topM: number }).topM).toBeCloseTo(2.7, 9);
  });
  it('draws it as high as was typed, in feet where the project has feet', async () => {
    const { sent } = open({ units: 'imperial' });
    await userEvent.click(screen.getByRole('button', { name: 'Draw' }));
    await userEvent.clear(heightField());
    await userEvent.type(heightField(), '10');
    drawSquare();
    await userEvent.click(screen.getByRole('button', { name: 'Close' }));
    await waitFor(() => expect(sent()).toHaveLength(1));
    // 10 ft = 3.048 m above the usual floor.
    expect((sent()[0]!.diff.added[0]!.body as { topM: number }).topM).toBeCloseTo(3.248, 9);
  });
  it('makes up no height where no room tells one', async () => {
    const bare = model();
    const { sent } = open({ models: [{ ...bare, table: { ...bare.table, roomPlans: [], boxes: new Float64Array([0, 0, 0, 9, 6, 3, ...Array(18).fill(Number.NaN)]) } } as LoadedModel] }); // biome-ignore format: one model
    await userEvent.click(screen.getByRole('button', { name: 'Draw' }));
    expect(heightField().value).toBe('');
    drawSquare();
    await userEvent.click(screen.getByRole('button', { name: 'Close' }));
    expect(screen.getByRole('status').textContent).toBe('Say how high the room is, for example 2.5 m.');
    expect(sent()).toEqual([]);
    // What was drawn is still there.
    await userEvent.type(heightField(), '2.4');
    await userEvent.click(screen.getByRole('button', { name: 'Close' }));
    await waitFor(() => expect(sent()).toHaveLength(1));
    // On the level of the storey.
    expect(sent()[0]!.diff.added[0]!.body).toMatchObject({ bottomM: 0.1, topM: 2.5 });
  });
  it('keeps what was drawn when it is refused', async () => {
    let answer: { body: unknown; status?: number } = refuse('The room cannot be kept.');
    const { sent } = open({ answer: () => answer });
    await userEvent.click(screen.getByRole('button', { name: 'Draw' }));
    drawSquare();
    await userEvent.click(screen.getByRole('button', { name: 'Close' }));
    await screen.findByText(/The room cannot be kept/);
    answer = DONE;
    await userEvent.click(screen.getByRole('button', { name: 'Close' }));
    await waitFor(() => expect(sent()).toHaveLength(2));
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Close' })).toBeNull());
  });
  it('divides a room where the line cuts it, with what was said of it; says why where it does not', async () => {
    const { sent } = open({ layer: { attributes: { 2: { Use: 'Wet' } }, zones: { 2: ['East'] } } });
    await userEvent.click(screen.getByRole('button', { name: 'Store' }));
    await userEvent.click(screen.getByRole('button', { name: 'Divide' }));
    press(2.5, -1);
    press(2.5, -0.9);
    expect(screen.getByRole('status').textContent).toMatch(/does not cut the room in two/);
    await userEvent.click(screen.getByRole('button', { name: 'Divide' }));
    press(4, -1);
    press(4, 4);
    await waitFor(() => expect(sent()).toHaveLength(1));
    const { added } = sent()[0]!.diff;
    expect(added[0]).toMatchObject({ kind: 'leftOut', id: '2' });
    const pieces = added.filter((a) => a.kind === 'drawnRoom');
    expect(pieces).toHaveLength(2);
    for (const { id } of pieces) {
      expect(added).toContainEqual({ kind: 'attributes', id, body: { Use: 'Wet' } });
      expect(added).toContainEqual({ kind: 'zones', id, body: ['East'] });
    }
  });
  it('divides a room beside its court, never through it: the court stays out of the floor', async () => {
    const { sent } = open();
    await userEvent.click(screen.getByRole('button', { name: 'Court' }));
    await userEvent.click(screen.getByRole('button', { name: 'Divide' }));
    press(13, -1);
    press(13, 8);
    expect(screen.getByRole('status').textContent).toMatch(/runs through a column or court/);
    expect(sent()).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'Divide' }));
    press(11, -1);
    press(11, 8);
    await waitFor(() => expect(sent()).toHaveLength(1));
    const pieces = sent()[0]!.diff.added.flatMap((a) => (a.kind === 'drawnRoom' ? [a.body as { rings: number[][]; holes?: number[][] }] : [])); // biome-ignore format: one choice
    const withCourt = pieces.filter((p) => p.holes);
    expect(withCourt.map((p) => p.holes)).toEqual([[rectangle(12, 2, 14, 4)]]);
    // It lies in the piece to the east of the line.
    expect(Math.min(...withCourt[0]!.rings[0]!.filter((_, i) => i % 2 === 0))).toBe(11);
  });
  it('adds up no area that is not there', () => {
    open();
    const finishes = within(screen.getByRole('list', { name: 'Floor finishes' }));
    expect(finishes.getByRole('button', { name: /^Oak/ }).textContent).toBe(
      'Oak 12.00 m² without one room not measured',
    );
    expect(finishes.getByRole('button', { name: /^none/ }).textContent).toBe('none assigned 30.00 m² without one room not measured'); // biome-ignore format: one line
  });
  it('is worked by keys: space chooses a room, with Ctrl another one too', async () => {
    open();
    const room = (name: string) => screen.getByRole('button', { name });
    room('Store').focus();
    await userEvent.keyboard(' ');
    expect(room('Store').getAttribute('aria-pressed')).toBe('true');
    room('Office').focus();
    await userEvent.keyboard('{Control>} {/Control}');
    expect(room('Store').getAttribute('aria-pressed')).toBe('true');
    expect(room('Office').getAttribute('aria-pressed')).toBe('true');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Join' }).disabled).toBe(false);
  });
});
