/** @jest-environment jsdom */
import { encodePictureChunk, type PictureChunk } from '@tally/core';
import { act, renderHook, waitFor } from '@testing-library/react';
import { connection } from '../../store/connection.ts';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { sampleWalls } from '../../testing/sample-table.ts';
import { usePicture } from './use-picture.ts';

const piece = (row: number): PictureChunk => ({
  origin: [0, 0, 0],
  elements: [{ row, firstVertex: 0, vertexCount: 3, firstIndex: 0, indexCount: 3 }],
  positions: new Float32Array(9),
  colours: new Uint8Array(12),
  indices: Uint32Array.of(0, 1, 2),
});
const model = (id: string, chunks: number): LoadedModel =>
  ({ revision: { id, chunks }, table: sampleWalls(), plain: sampleWalls(), offset: 0 }) as unknown as LoadedModel;

/** Draws nothing: writes down what it is told. */
class Host {
  readonly told: string[] = [];
  reset = (count: number) => void this.told.push(`room for ${count}`);
  addChunk = ({ elements }: PictureChunk) => void this.told.push(`piece of row ${elements[0]!.row}`);
}

/** A server that answers pieces as it is told: with bytes, not at all, or with a refusal. */
function serve(answer: (path: string) => Uint8Array | Promise<Uint8Array> | 'away' | 'refused') {
  const asked: string[] = [];
  globalThis.fetch = (async (path: string) => {
    asked.push(path.replace('/api/projects/p/revisions/', ''));
    const given = answer(path);
    if (given === 'away') throw new TypeError('no answer');
    if (given === 'refused')
      return {
        ok: false,
        status: 500,
        json: async () => ({ detail: 'The disk cannot be read.', remedy: 'Try again.' }),
      };
    const bytes = await given;
    return { ok: true, status: 200, arrayBuffer: async () => bytes.slice().buffer };
  }) as unknown as typeof fetch;
  return asked;
}
const rowOf = (path: string) => Number(path.slice(-1));
const open = (models: LoadedModel[], host = new Host()) => ({
  host,
  ...renderHook(({ now }) => usePicture(host, now, 'p'), { initialProps: { now: models } }),
});
beforeEach(() => connection.set(true));

describe('the picture of a model', () => {
  it('is drawn piece by piece, each once, also when the model is told anew or gets more', async () => {
    const asked = serve((path) => encodePictureChunk(piece(rowOf(path))));
    const { host, rerender } = open([model('r1', 2)]);
    await waitFor(() => expect(host.told).toEqual(['room for 3', 'piece of row 0', 'piece of row 1']));
    rerender({ now: [model('r1', 3)] });
    await waitFor(() => expect(host.told.at(-1)).toBe('piece of row 2'));
    expect(asked).toEqual(['r1/picture/0', 'r1/picture/1', 'r1/picture/2']);
  });
  it('says what is missing, draws the rest, and reads the missing again when asked', async () => {
    let isBroken = true;
    serve((path) => (isBroken && rowOf(path) === 0 ? 'refused' : encodePictureChunk(piece(rowOf(path)))));
    const { host, result } = open([model('r1', 2)]);
    await waitFor(() => expect(result.current.problem).toBe('The disk cannot be read. Try again.'));
    expect(host.told).toEqual(['room for 3', 'piece of row 1']);
    isBroken = false;
    act(() => result.current.readAgain());
    await waitFor(() => expect(result.current.problem).toBeNull());
    expect(host.told).toEqual(['room for 3', 'piece of row 1', 'piece of row 0']);
  });
  it('that is damaged says what to do', async () => {
    serve(() => Uint8Array.of(1, 2, 3, 4, 5, 6, 7, 8));
    const { result } = open([model('r1', 1)]);
    await waitFor(() => expect(result.current.problem).toMatch(/unknown format.*Import the model again\./));
  });
  it('is read on when the server is back, without being asked', async () => {
    let isAway = true;
    serve((path) => (isAway ? 'away' : encodePictureChunk(piece(rowOf(path)))));
    const { host, result } = open([model('r1', 1)]);
    await waitFor(() => expect(result.current.problem).toMatch(/does not answer/));
    isAway = false;
    act(() => connection.set(true));
    await waitFor(() => expect(host.told).toEqual(['room for 3', 'piece of row 0']));
    expect(result.current.problem).toBeNull();
  });
  it('of another revision begins anew; what comes late of the one before is not drawn', async () => {
    let release = () => {};
    const gate = new Promise<void>((done) => {
      release = done;
    });
    serve((path) =>
      path.includes('r1') ? gate.then(() => encodePictureChunk(piece(1))) : encodePictureChunk(piece(2)),
    );
    const { host, rerender } = open([model('r1', 1)]);
    rerender({ now: [model('r2', 1)] });
    await waitFor(() => expect(host.told.at(-1)).toBe('piece of row 2'));
    await act(async () => release());
    expect(host.told).toEqual(['room for 3', 'room for 3', 'piece of row 2']);
  });
});
