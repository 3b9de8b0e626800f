import { Dialog, type DialogProps } from '@mui/material';

/** A dialog that is typed in: a press beside it does not throw away what was typed; Escape and its own buttons close it. */
export function FormDialog({
  onClose,
  ...props
}: Omit<DialogProps, 'open' | 'onClose'> & { readonly onClose: () => void }) {
  return <Dialog open fullWidth {...props} onClose={(_, reason) => reason !== 'backdropClick' && onClose()} />;
}
