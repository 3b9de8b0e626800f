import { IFC_PRODUCT_CLASSES } from './ifc-product-classes.ts';

const parents = new Map<string, string>();
const properNames = new Map<string, string>();
for (const line of IFC_PRODUCT_CLASSES.trim().split('\n')) {
  const [name, parent] = line.split(',') as [string, string];
  // IFC4X3 renamed IfcBuildingElement to IfcBuiltElement; both names catch the same classes.
  parents.set(name.toLowerCase(), (parent === 'IfcBuildingElement' ? 'IfcBuiltElement' : parent).toLowerCase());
  properNames.set(name.toLowerCase(), name);
}
parents.set('ifcbuildingelement', 'ifcbuiltelement');

/** True if `ifcClass` is `ancestor` or one of its subtypes in the standard; case does not matter. */
export function isClassOrSubtype(ifcClass: string, ancestor: string): boolean {
  const wanted = ancestor.toLowerCase() === 'ifcbuildingelement' ? 'ifcbuiltelement' : ancestor.toLowerCase();
  for (let name: string | undefined = ifcClass.toLowerCase(), depth = 0; name && depth < 32; depth++) {
    if (name === wanted) return true;
    name = parents.get(name);
  }
  return false;
}

/** Name of a product class as the standard spells it, from any case; undefined if the standard has none. */
export function properClassName(name: string): string | undefined {
  return properNames.get(name.toLowerCase());
}

/** All product class names of the standard, sorted. */
export function listProductClasses(): string[] {
  return [...properNames.values()].sort();
}
