import { Button, DialogActions } from '@mui/material';

/** The foot of a dialog: leaving it as it was, and what it is for. */
export function DialogFoot({
  label,
  isOff,
  onAct,
  onCancel,
}: {
  readonly label: string;
  readonly isOff: boolean;
  readonly onAct: () => void;
  readonly onCancel: () => void;
}) {
  return (
    <DialogActions>
      <Button color="inherit" onClick={onCancel}>
        Cancel
      </Button>
      <Button variant="contained" disabled={isOff} onClick={onAct}>
        {label}
      </Button>
    </DialogActions>
  );
}
