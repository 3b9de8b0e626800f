import { Box, Button } from '@mui/material';
import { useUnread } from '../../store/use-unread.ts';

/** Says that something on the page could not be read, and why; nothing where all was. */
export function UnreadNotice({ isNarrow }: { readonly isNarrow: boolean }) {
  const { reasons, readAgain } = useUnread();
  const [first, ...others] = reasons;
  if (first === undefined) return null;
  const more = others.length === 0 ? '' : ` And ${others.length} more.`;
  return (
    <Box
      role="alert"
      title={reasons.join('\n')}
      sx={{ px: isNarrow ? 0.75 : 1.5, py: 0.75, fontSize: 12, bgcolor: 'tally.unpricedSoft', color: 'text.primary' }}
    >
      {isNarrow ? 'Not all could be read' : `Not all of this page could be read. ${first}${more}`}
      <Button size="small" color="inherit" onClick={readAgain} sx={{ display: 'block', px: 0.5, ml: -0.5 }}>
        Read again
      </Button>
    </Box>
  );
}
