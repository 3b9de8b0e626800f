import { changeExpected } from './expected-strip.tsx';

describe('sections that a class is expected in', () => {
  const before = { ifcClass: 'IfcWall', sections: ['walls'] };
  it('are said the first time', () =>
    expect(changeExpected(undefined, 'IfcWall', ['walls']).diff).toEqual({
      added: [{ kind: 'expected', id: 'IfcWall', body: before }],
    }));
  it('are changed', () =>
    expect(changeExpected(before, 'IfcWall', ['walls', 'paint']).diff).toEqual({
      updated: [
        { kind: 'expected', id: 'IfcWall', from: before, to: { ifcClass: 'IfcWall', sections: ['walls', 'paint'] } },
      ],
    }));
  it('are taken away with the last of them', () =>
    expect(changeExpected(before, 'IfcWall', []).diff).toEqual({
      removed: [{ kind: 'expected', id: 'IfcWall', body: before }],
    }));
});
