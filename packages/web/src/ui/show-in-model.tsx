import CenterFocusStrongIcon from '@mui/icons-material/CenterFocusStrong';
import { IconButton, Tooltip } from '@mui/material';

/** Takes what is selected to the model. */
export function ShowInModel({ isOff, onClick }: { readonly isOff: boolean; readonly onClick: () => void }) {
  return (
    <Tooltip title={isOff ? 'Select something to see it in the model' : 'Show the selection in the model'}>
      <span>
        <IconButton aria-label="Show in the model" disabled={isOff} onClick={onClick} sx={{ p: 0.5 }}>
          <CenterFocusStrongIcon fontSize="small" />
        </IconButton>
      </span>
    </Tooltip>
  );
}
