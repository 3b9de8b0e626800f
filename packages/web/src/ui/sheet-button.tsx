import { Badge, Button, Popover } from '@mui/material';
import { type ReactNode, useState } from 'react';

/** A button that opens a small sheet below itself; `count` says how much is chosen there. */
export function SheetButton({
  label,
  count,
  width = 620,
  children,
}: {
  readonly label: string;
  readonly count?: number;
  readonly width?: number;
  readonly children: ReactNode;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Badge
        badgeContent={count ?? 0}
        color="primary"
        sx={{ '& .MuiBadge-badge': { fontSize: 10, height: 16, minWidth: 16 } }}
      >
        <Button color="inherit" variant="outlined" aria-haspopup="dialog" onClick={(e) => setAnchor(e.currentTarget)}>
          {label}
        </Button>
      </Badge>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{
          paper: { sx: { border: 1, borderColor: 'divider', p: 2, mt: 0.5, width, maxWidth: '90vw' } },
        }}
      >
        {children}
      </Popover>
    </>
  );
}
