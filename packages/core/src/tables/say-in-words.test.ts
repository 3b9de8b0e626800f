import { nameProperty, sayInWords } from './say-in-words.ts';

describe('a text for people', () => {
  it.each([
    ['IfcWallStandardCase W1: NetSideArea 12 m2', 'Wall W1: Side area, net 12 m²'],
    ['the m3 and the m2 of a wall M2, 4 m3', 'the m³ and the m² of a wall M2, 4 m³'],
    ['class is IfcWall and Pset_WallCommon.IsExternal is yes', 'class is Wall and Outside is yes'],
    ['Pset_DoorCommon.HandicapAccessible is yes', 'Handicap accessible is yes'],
    ['Length 4 m, Grade A', 'Length 4 m, Grade A'],
    ['Pset_Own.grade_2 is A', 'grade_2 is A'],
  ])('"%s" reads "%s"', (text, words) => expect(sayInWords(text)).toBe(words));
  it('keeps names that are of nobody', () => expect(nameProperty('EI60')).toBe('EI60'));
});
