/** Rows as CSV (RFC 4180) with a byte order mark; cells that a spreadsheet would take for a formula are neutralised. */
export function toCsv(rows: readonly (readonly string[])[]): string {
  const cell = (text: string) => {
    const safe = /^[=+@\t\r]|^-(?!\d)/.test(text) ? `'${text}` : text;
    return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
  };
  return `\ufeff${rows.map((r) => r.map(cell).join(',')).join('\r\n')}\r\n`;
}

/** Hands a text to the browser as a file. */
export const saveText = (name: string, text: string): void => saveBlob(name, new Blob([text], { type: 'text/csv' }));

/** Hands a file to the browser. */
export function saveBlob(name: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}
