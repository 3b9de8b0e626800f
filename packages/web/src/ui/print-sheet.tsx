import { GlobalStyles } from '@mui/material';
import type { ReactNode } from 'react';
import { createPortal } from 'react-dom';

/** What is printed of a page in place of what is on screen: plain sheets on white, the page itself stays out. */
export function PrintSheet({ children }: { readonly children: ReactNode }) {
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
            '.print-sheet section + section': { breakBefore: 'page' },
            '@page': { margin: '15mm' },
          },
        }}
      />
      {createPortal(<div className="print-sheet">{children}</div>, document.body)}
    </>
  );
}
