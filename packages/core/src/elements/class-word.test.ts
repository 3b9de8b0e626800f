import { classWord, findClassByWord, sayClassWords } from './class-word.ts';

describe('words for classes', () => {
  it.each([
    ['IfcWall', 'Wall'],
    ['IfcWallStandardCase', 'Wall'],
    ['IfcWallElementedCase', 'Wall'],
    ['IfcStairFlight', 'Stair flight'],
    ['IfcFooting', 'Footing'],
    ['IfcCurtainWall', 'Curtain wall'],
    ['IfcReinforcingBar', 'Reinforcing bar'],
    ['IfcBuildingElementProxy', 'Element without a class'],
    ['IfcFlowTerminal', 'Services outlet'],
    ['', ''],
    ['Ifconfig', 'Ifconfig'],
  ])('%s is "%s"', (name, word) => expect(classWord(name)).toBe(word));
  it.each([
    ['wall', 'IfcWall'],
    ['Stair Flight', 'IfcStairFlight'],
    ['ifcslab', 'IfcSlab'],
    ['element without a class', 'IfcBuildingElementProxy'],
    ['wa', undefined],
    ['', undefined],
  ])('"%s" means %s', (text, name) => expect(findClassByWord(text)).toBe(name));
  it('are not said twice', () =>
    expect(sayClassWords('IfcColumn Column 3A and IfcStair Main stair, IfcSlab slab 4')).toBe(
      'Column 3A and Stair Main stair, slab 4',
    ));
  it('stand in sentences', () =>
    expect(sayClassWords('IfcWallStandardCase W-1 and IfcSlab 2 overlap; see IFC4.')).toBe(
      'Wall W-1 and Slab 2 overlap; see IFC4.',
    ));
});
