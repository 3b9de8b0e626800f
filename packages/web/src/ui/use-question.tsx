import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { type ReactNode, useState } from 'react';

interface Question {
  readonly title: string;
  readonly text: string;
  readonly yes: string;
  readonly no: string;
}

/** Asks something that nobody should do by a slip of the finger. The dialog goes somewhere on the page that asks. */
export function useQuestion(): { readonly ask: (question: Question) => Promise<boolean>; readonly dialog: ReactNode } {
  const [open, setOpen] = useState<(Question & { readonly answer: (isYes: boolean) => void }) | null>(null);
  const answer = (isYes: boolean) => {
    open?.answer(isYes);
    setOpen(null);
  };
  return {
    ask: (question) => new Promise((resolve) => setOpen({ ...question, answer: resolve })),
    dialog: open && (
      <Dialog open onClose={() => answer(false)} maxWidth="xs" fullWidth>
        <DialogTitle>{open.title}</DialogTitle>
        <DialogContent>{open.text}</DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={() => answer(true)}>
            {open.yes}
          </Button>
          <Button variant="contained" autoFocus onClick={() => answer(false)}>
            {open.no}
          </Button>
        </DialogActions>
      </Dialog>
    ),
  };
}
