import type { ChosenFace } from '@tally/core';
import { sampleLayer } from '../testing/sample-layer.ts';
import {
  askAttribute,
  changeFinish,
  changeWallFinishes,
  changeZones,
  dropChosenFaces,
  keepChosenFaces,
  readAttribute,
  renameZone,
} from './change-layer.ts';

const face = (offsetM: number): ChosenFace => ({ normal: [0, 0, 1], offsetM });

describe('finishes of rooms', () => {
  it('are added, changed and taken back to what the file says; what stays is passed over', () => {
    const own = sampleLayer({
      finishes: { 1: { floor: 'Oak' }, 2: { floor: 'Oak', wall: 'Tiles' }, 3: { floor: 'Cork' } },
    });
    expect(changeFinish(own, [1, 2, 3, 4], 'floor', 'Cork')).toEqual({
      cause: 'Floor finish of 4 rooms: Cork',
      diff: {
        added: [{ kind: 'finishes', id: '4', body: { floor: 'Cork' } }],
        updated: [
          { kind: 'finishes', id: '1', from: { floor: 'Oak' }, to: { floor: 'Cork' } },
          {
            kind: 'finishes',
            id: '2',
            from: { floor: 'Oak', wall: 'Tiles' },
            to: { wall: 'Tiles', floor: 'Cork' },
          },
        ],
        removed: [],
      },
    });
    const back = changeFinish(own, [1, 2, 9], 'floor', undefined);
    expect(back.cause).toBe('Floor finish of 3 rooms: as in the file');
    expect(back.diff).toMatchObject({
      added: [],
      updated: [{ id: '2', to: { wall: 'Tiles' } }],
      removed: [{ kind: 'finishes', id: '1', body: { floor: 'Oak' } }],
    });
  });
  it('can be none', () => {
    const none = changeFinish(sampleLayer(), [1], 'skirting', null);
    expect(none).toMatchObject({
      cause: 'Skirting finish of one room: none',
      diff: { added: [{ id: '1', body: { skirting: null } }] },
    });
  });
  it('of walls go part by part, without what says nothing', () => {
    const made = changeWallFinishes(sampleLayer(), [1], [{ finish: 'Tiles', toM: 2.1, walls: undefined }]);
    expect(made).toMatchObject({
      cause: 'Walls of one room: Tiles',
      diff: { added: [{ kind: 'wallFinishes', id: '1', body: [{ finish: 'Tiles', toM: 2.1 }] }] },
    });
    const back = changeWallFinishes(sampleLayer({ wallFinishes: { 1: [{ finish: 'Tiles' }] } }), [1], []);
    expect(back).toMatchObject({ cause: 'Walls of one room: one finish', diff: { removed: [{ id: '1' }] } });
  });
});

describe('attributes', () => {
  it.each([
    ['  ', undefined],
    ['yes', true],
    ['FALSE', false],
    ['2,5', 2.5],
    ['-3', -3],
    ['2.4 m', '2.4 m'],
    ['1,2,3', '1,2,3'],
    ['12,5 m2', '12.5 m2'],
    ['1.5h', '1.5 h'],
    ['12 of 14', '12 of 14'],
  ])('"%s" is read as %s', (text, value) => expect(readAttribute(text)).toBe(value));
  it.each(['1,250', '1.250 m2'])('"%s" is asked about', (text) =>
    expect(askAttribute(text)).toMatch(/can be 1.25 or 1250/),
  );
});

describe('zones', () => {
  const own = sampleLayer({ zones: { 1: ['East', 'Wet'], 2: ['Wet'], 3: ['East'] } });
  it('are trimmed and named once', () =>
    expect(changeZones(own, [4], [' East ', 'East', ''])).toMatchObject({
      cause: 'Zones of one element: East',
      diff: { added: [{ id: '4', body: ['East'] }] },
    }));
  it('are renamed on all their elements, and never twice on one', () => {
    const { diff, cause } = renameZone(own, 'Wet', 'East');
    expect(cause).toBe('Zone Wet renamed: East');
    expect(diff.updated).toEqual([
      { kind: 'zones', id: '1', from: ['East', 'Wet'], to: ['East'] },
      { kind: 'zones', id: '2', from: ['Wet'], to: ['East'] },
    ]);
  });
  it('are done away with', () =>
    expect(renameZone(own, 'Wet', null).diff).toMatchObject({
      updated: [{ id: '1', to: ['East'] }],
      removed: [{ id: '2' }],
    }));
});

describe('chosen faces', () => {
  it('are kept beside those of the same name, element by element', () => {
    const own = sampleLayer({ chosenFaces: { 1: { Seen: [face(1)] } } });
    const picked = [
      { elementKey: 1, face: face(2) },
      { elementKey: 2, face: face(3) },
      { elementKey: 1, face: face(4) },
    ];
    expect(keepChosenFaces(own, picked, 'Seen')).toEqual({
      cause: 'Seen: 3 faces of 2 elements',
      diff: {
        added: [{ kind: 'chosenFaces', id: '2', body: { Seen: [face(3)] } }],
        removed: [],
        updated: [
          {
            kind: 'chosenFaces',
            id: '1',
            from: { Seen: [face(1)] },
            to: { Seen: [face(1), face(2), face(4)] },
          },
        ],
      },
    });
    expect(dropChosenFaces(own, 1, 'Seen').diff.removed).toEqual([
      { kind: 'chosenFaces', id: '1', body: { Seen: [face(1)] } },
    ]);
  });
});
