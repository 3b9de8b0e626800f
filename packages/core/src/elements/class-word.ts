import { foldText } from '../units/fold-text.ts';
import { listProductClasses, properClassName } from './class-hierarchy.ts';
import { takeNameApart } from './take-name-apart.ts';

/** Classes whose name is no word of the trade. */
const WORDS: Readonly<Record<string, string>> = {
  IfcBuildingElementProxy: 'Element without a class',
  IfcBuildingElementPart: 'Part of an element',
  IfcBuiltElement: 'Built element',
  IfcElementAssembly: 'Built-up element',
  IfcFurnishingElement: 'Furnishing',
  IfcSystemFurnitureElement: 'Built-in furniture',
  IfcOpeningElement: 'Opening',
  IfcGeographicElement: 'Terrain and planting',
  IfcTransportElement: 'Lift or escalator',
  IfcDiscreteAccessory: 'Fixing part',
  IfcDistributionElement: 'Services element',
  IfcDistributionFlowElement: 'Services element',
  IfcFlowSegment: 'Pipe, duct or cable run',
  IfcFlowFitting: 'Pipe, duct or cable fitting',
  IfcFlowTerminal: 'Services outlet',
  IfcVirtualElement: 'Boundary without a body',
};

/**
 * The word for an IFC class, as an estimator reads it; the class itself is what one types in formulas and conditions.
 * @example `IfcWallStandardCase` is "Wall", `IfcStairFlight` "Stair flight", an empty text stays empty
 */
export function classWord(ifcClass: string): string {
  const known = WORDS[ifcClass];
  if (known !== undefined) return known;
  const name = ifcClass.replace(/^Ifc(?=[A-Z])/, '').replace(/(?:Standard|Elemented)Case$/, '');
  const words = takeNameApart(name);
  return words;
}

/** Class that is meant by a word or by its own name, in any case; undefined if none is. Of several with one word the plainest is meant. */
export function findClassByWord(text: string): string | undefined {
  const wanted = foldText(text);
  return properClassName(text.trim()) ?? listByWord().get(wanted);
}

let byWord: Map<string, string> | null = null;

function listByWord(): Map<string, string> {
  if (byWord) return byWord;
  byWord = new Map();
  for (const name of listProductClasses().sort((a, b) => a.length - b.length)) {
    const word = foldText(classWord(name));
    if (!byWord.has(word)) byWord.set(word, name);
  }
  return byWord;
}

/** The word for a class that may be missing. */
export const sayClass = (ifcClass: string | null): string | null => ifcClass && classWord(ifcClass);

/** A text for people: names of classes in it become words; one before a name that begins with the word is left out. */
export const sayClassWords = (text: string): string =>
  text.replace(/\b(Ifc[A-Z][A-Za-z0-9]+)( \S+)?/g, (_, ifcClass: string, next = '') => {
    const word = classWord(ifcClass);
    return foldText(word) === foldText(next) ? next.trim() : word + next;
  });
