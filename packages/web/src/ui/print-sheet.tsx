import { GlobalStyles } from '@mui/material';
import { type ReactNode, useEffect, useState } from 'react';
import { createPortal, flushSync } from 'react-dom';

/** True while the browser prints, or shows how it would: what is only printed is drawn then, and not before. */
function useIsPrinting(): boolean {
  const [isPrinting, setPrinting] = useState(false);
  useEffect(() => {
    // The browser takes the page as it is when the event is over.
    const set = (is: boolean) => flushSync(() => setPrinting(is));
    const [begin, end] = [() => set(true), () => set(false)];
    const media = window.matchMedia?.('print');
    const follow = (e: MediaQueryListEvent) => set(e.matches);
    window.addEventListener('beforeprint', begin);
    window.addEventListener('afterprint', end);
    media?.addEventListener?.('change', follow);
    return () => {
      window.removeEventListener('beforeprint', begin);
      window.removeEventListener('afterprint', end);
      media?.removeEventListener?.('change', follow);
    };
  }, []);
  return isPrinting;
}

/** What is printed of a page in place of what is on screen: plain sheets on white, drawn when it is printed; the page itself stays out. */
export function PrintSheet({ children }: { readonly children: () => ReactNode }) {
  const isPrinting = useIsPrinting();
  return (
    <>
      <GlobalStyles
        styles={{
          '.print-sheet': { display: 'none' },
          '@media print': {
            'body > *:not(.print-sheet)': { display: 'none !important' },
            '.print-sheet': { display: 'block', color: '#000', background: '#fff', fontSize: '10pt' },
            '.print-sheet table': { width: '100%', borderCollapse: 'collapse' },
            // The heading of a table comes again on each page.
            '.print-sheet thead': { display: 'table-header-group' },
            '.print-sheet tr': { breakInside: 'avoid' },
            '.print-sheet th, .print-sheet td': {
              textAlign: 'left',
              padding: '2pt 6pt 2pt 0',
              borderBottom: '0.5pt solid #999',
              verticalAlign: 'top',
            },
            '.print-sheet .figure': { textAlign: 'right', whiteSpace: 'nowrap' },
            '.print-sheet .head': { fontWeight: 700 },
            '.print-sheet section + section': { breakBefore: 'page' },
            '@page': { margin: '15mm' },
          },
        }}
      />
      {createPortal(<div className="print-sheet">{isPrinting && children()}</div>, document.body)}
    </>
  );
}
