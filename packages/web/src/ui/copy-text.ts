/**
 * Puts a text on the clipboard. Pages that come over an unsecured network have no access to it but by marking: that is tried then.
 * Errors: rejects where the browser does not allow it.
 */
export async function copyText(text: string): Promise<void> {
  if (navigator.clipboard) return navigator.clipboard.writeText(text);
  const before = document.activeElement as HTMLElement | null;
  const field = document.createElement('textarea');
  field.value = text;
  field.style.position = 'fixed';
  field.style.opacity = '0';
  document.body.append(field);
  field.focus();
  field.select();
  const isCopied = document.execCommand('copy');
  field.remove();
  before?.focus();
  if (!isCopied) throw new Error('The browser does not let the page copy.');
}
