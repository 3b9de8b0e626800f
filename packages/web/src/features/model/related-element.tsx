import Link from '@mui/material/Link';
import { type ElementTable, readText, relateElements } from '@tally/core';
import { useSelection } from '../../store/selection.tsx';
import { Pair } from './sheet-section.tsx';

/** The whole or the host of an element, by its name; a press selects it. What is not in the source is named as the source names it. */
export function RelatedElement({
  name,
  table,
  row,
  relation,
}: {
  readonly name: string;
  readonly table: ElementTable;
  readonly row: number;
  readonly relation: 'parent' | 'host';
}) {
  const { select } = useSelection();
  const said = readText(table[relation], row);
  if (said === null) return null;
  const relations = relateElements(table);
  const key = (relation === 'parent' ? relations.wholes : relations.hosts)[row]!;
  const at = key === 0 ? -1 : table.keys.indexOf(key);
  if (at < 0) return <Pair name={name}>{said}</Pair>;
  return (
    <Pair name={name}>
      <Link component="button" onClick={() => select([key])} sx={{ font: 'inherit', textAlign: 'right' }}>
        {readText(table.name, at) ?? said}
      </Link>
    </Pair>
  );
}
