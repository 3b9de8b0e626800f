import { Box, Button, TextField } from '@mui/material';
import type { ReactNode } from 'react';

/** What clicks on the plan of rooms do; null is selecting. */
export type PlanTool = 'draw' | 'divide' | 'limit';

const HINTS: Record<PlanTool, (points: number) => string> = {
  draw: () => 'Click the corners; they snap to rooms.',
  limit: () => 'Click the corners of the outline that quantities can be limited to.',
  divide: (points) => `Click the ${points === 0 ? 'first' : 'second'} end of the line.`,
};
const NAMED: Partial<Record<PlanTool, string>> = { draw: 'Name of the room', limit: 'Name of the limit' };

/** Tools of the plan of rooms; what is drawn gets its name here. */
export function RoomToolbar({
  tool,
  points,
  name,
  height,
  isHeightWrong,
  problem,
  canDivide,
  onTool,
  onName,
  onHeight,
  onFinish,
  children,
}: {
  readonly tool: PlanTool | null;
  /** Corners clicked so far. */
  readonly points: number;
  readonly name: string;
  /** Of a room that is drawn, as it is typed. */
  readonly height: string;
  readonly isHeightWrong: boolean;
  readonly problem: string | null;
  readonly canDivide: boolean;
  readonly onTool: (tool: PlanTool) => void;
  readonly onName: (name: string) => void;
  readonly onHeight: (height: string) => void;
  readonly onFinish: () => void;
  /** Actions on the chosen rooms. */
  readonly children: ReactNode;
}) {
  const toolButton = (own: PlanTool, label: string, isOff = false) => (
    <Button
      color={tool === own ? 'primary' : 'inherit'}
      aria-pressed={tool === own}
      disabled={isOff}
      onClick={() => onTool(own)}
    >
      {label}
    </Button>
  );
  return (
    <Box
      role="toolbar"
      aria-label="Rooms"
      sx={{
        display: 'flex',
        gap: 0.5,
        px: 1,
        py: 0.5,
        borderBottom: 1,
        borderColor: 'divider',
        alignItems: 'center',
        flexWrap: 'wrap',
        '& .MuiButton-root': { px: 1, minWidth: 0, whiteSpace: 'nowrap' },
      }}
    >
      {toolButton('draw', 'Draw')}
      {toolButton('divide', 'Divide', !canDivide)}
      {children}
      {toolButton('limit', 'Outline')}
      {tool !== null && NAMED[tool] && (
        <>
          <TextField
            value={name}
            onChange={(e) => onName(e.target.value)}
            slotProps={{ htmlInput: { 'aria-label': NAMED[tool] } }}
            sx={{ width: 130 }}
          />
          {tool === 'draw' && (
            <TextField
              placeholder="Height"
              value={height}
              error={isHeightWrong}
              onChange={(e) => onHeight(e.target.value)}
              slotProps={{ htmlInput: { 'aria-label': 'Height of the room' } }}
              sx={{ width: 84 }}
            />
          )}
          <Button disabled={points < 3 || name.trim() === ''} onClick={onFinish}>
            Close
          </Button>
        </>
      )}
      <Box role="status" sx={{ fontSize: 12.5, color: problem ? 'error.main' : 'text.secondary', ml: 0.5 }}>
        {problem ?? (tool ? HINTS[tool](points) : '')}
      </Box>
    </Box>
  );
}
