import ArrowDropDownIcon from '@mui/icons-material/ArrowDropDown';
import ArrowRightIcon from '@mui/icons-material/ArrowRight';
import { Box } from '@mui/material';

/** Heading of a group in a table: its name, and how it is closed. */
export function GroupLabel({
  label,
  note,
  isOpen,
  onToggle,
}: {
  readonly label: string;
  /** What must be known beside the name: that something in it is unknown. */
  readonly note?: string | null;
  readonly isOpen: boolean;
  readonly onToggle: () => void;
}) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', ml: -0.75 }}>
      <Box
        component="button"
        type="button"
        aria-label={isOpen ? 'Close group' : 'Open group'}
        onClick={(e) => {
          e.stopPropagation();
          onToggle();
        }}
        sx={{ all: 'unset', display: 'flex', cursor: 'pointer' }}
      >
        {isOpen ? <ArrowDropDownIcon fontSize="small" /> : <ArrowRightIcon fontSize="small" />}
      </Box>
      {label}
      {note && (
        <Box component="span" sx={{ ml: 1, fontWeight: 400, fontSize: 12, color: 'text.secondary' }}>
          {note}
        </Box>
      )}
    </Box>
  );
}
