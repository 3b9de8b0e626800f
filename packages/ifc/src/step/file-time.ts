/** Bytes of a file that its header is looked for in. */
const HEAD = 200_000;

/**
 * When a file says that it was written, as ISO 8601 in UTC; null where its header does not say, or not as a time. A time without a zone is taken as UTC.
 * @example FILE_NAME('house.ifc','2026-03-02T09:00:00',…) // '2026-03-02T09:00:00.000Z'
 */
export function readFileTime(bytes: Uint8Array): string | null {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, Math.min(bytes.length, HEAD)));
  const text = /FILE_NAME\s*\(\s*(?:'(?:[^']|'')*'|\$)\s*,\s*'([^']*)'/i.exec(head)?.[1]?.trim() ?? '';
  if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d/.test(text)) return null;
  const at = Date.parse(/(Z|[+-]\d\d:?\d\d)$/.test(text) ? text : `${text}Z`);
  return Number.isNaN(at) ? null : new Date(at).toISOString();
}
