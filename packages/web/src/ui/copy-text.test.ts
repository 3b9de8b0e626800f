/** @jest-environment jsdom */
import { copyText } from './copy-text.ts';

const give = (clipboard: unknown) =>
  Object.defineProperty(navigator, 'clipboard', { configurable: true, value: clipboard });
afterEach(() => give(undefined));

describe('copying a text', () => {
  it('is left to the clipboard where the page may use it', async () => {
    const written: string[] = [];
    give({ writeText: async (text: string) => void written.push(text) });
    await copyText('Locker\t128.00');
    expect(written).toEqual(['Locker\t128.00']);
  });
  it('marks it where the page may not, and leaves everything as it was', async () => {
    const button = document.body.appendChild(document.createElement('button'));
    button.focus();
    let marked = '';
    document.execCommand = () => {
      marked = (document.activeElement as HTMLTextAreaElement).value;
      return true;
    };
    await copyText('Locker\n128.00');
    expect(marked).toBe('Locker\n128.00');
    expect(document.querySelector('textarea')).toBeNull();
    expect(document.activeElement).toBe(button);
  });
  it('that is not allowed is told', async () => {
    document.execCommand = () => false;
    await expect(copyText('Locker')).rejects.toThrow('does not let the page copy');
    expect(document.querySelector('textarea')).toBeNull();
  });
});
