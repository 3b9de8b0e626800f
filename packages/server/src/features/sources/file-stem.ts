/**
 * Name of the source a file belongs to: the file name without its ending and without a revision mark at its end.
 * @example fileStem('heron-wharf-R2.ifc') // 'heron-wharf'; fileStem('Boathouse_rev 03.ifc') // 'Boathouse'
 */
export function fileStem(fileName: string): string {
  const base = fileName.replace(/^.*[\\/]/, '').replace(/\.(ifc|xlsx|csv|txt)$/i, '');
  const stem = base.replace(/[-_. ]*(?:rev(?:ision)?|issue|desk|r|v)[-_. ]*\d+[a-z]?$/i, '');
  return (stem || base || 'Model').slice(0, 120);
}
