import { fileStem } from './file-stem.ts';

it.each([
  ['heron-wharf-R2.ifc', 'heron-wharf'],
  ['Boathouse_rev 03.IFC', 'Boathouse'],
  ['structure v12b.ifc', 'structure'],
  ['C:\\models\\site.ifc', 'site'],
  ['R2.ifc', 'R2'],
  ['.ifc', 'Model'],
  ['house 2025.ifc', 'house 2025'],
])('%s belongs to %s', (name, stem) => expect(fileStem(name)).toBe(stem));
