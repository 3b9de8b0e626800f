/** A copy of plain data with the buffers of its columns, which can be moved to another thread without being copied there. */
export function copyToMove<T>(data: T): { readonly copy: T; readonly buffers: ArrayBuffer[] } {
  const copy = structuredClone(data);
  const buffers = new Set<ArrayBuffer>();
  const seen = new Set<unknown>();
  const visit = (value: unknown) => {
    if (typeof value !== 'object' || value === null || seen.has(value)) return;
    seen.add(value);
    if (ArrayBuffer.isView(value)) {
      buffers.add(value.buffer as ArrayBuffer);
    } else if (Object.prototype.toString.call(value) === '[object Map]') {
      for (const entry of (value as Map<unknown, unknown>).values()) visit(entry);
    } else {
      // Lists of texts and figures hold no columns.
      if (Array.isArray(value) && typeof value[0] !== 'object') return;
      for (const entry of Object.values(value)) visit(entry);
    }
  };
  visit(copy);
  return { copy, buffers: [...buffers] };
}
