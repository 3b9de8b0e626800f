import CenterFocusStrongIcon from '@mui/icons-material/CenterFocusStrong';
import { IconAct } from './icon-act.tsx';

/** Shows what is selected in a table in the model. */
export function ShowInModel({ isOff, onClick }: { readonly isOff: boolean; readonly onClick: () => void }) {
  return (
    <IconAct
      word="Show in the model"
      hint={isOff ? 'Select something to see it in the model' : 'Show the selection in the model'}
      isOff={isOff}
      onClick={onClick}
    >
      <CenterFocusStrongIcon fontSize="small" />
    </IconAct>
  );
}
