import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';

/**
 * A page between a pane at its left and one at its right. Both can be made wider and narrower, by mouse and by arrow keys on the line
 * between; what is not there gives its room to the middle. Their widths stay as they were set.
 */
export function Panes({
  name,
  left,
  right,
  leftSize = 224,
  children,
}: {
  readonly name: string;
  readonly left: ReactNode | null;
  readonly right: ReactNode | null;
  /** Width of the left pane as it begins, px. */
  readonly leftSize?: number;
  readonly children: ReactNode;
}) {
  const panelIds = [...(left === null ? [] : ['left']), 'middle', ...(right === null ? [] : ['right'])];
  const kept = useDefaultLayout({ id: `tally/panes/${name}`, panelIds, storage: localStorage });
  return (
    <Group
      id={`panes-${name}`}
      orientation="horizontal"
      defaultLayout={kept.defaultLayout}
      onLayoutChanged={kept.onLayoutChanged}
      style={{ flex: 1, minHeight: 0 }}
    >
      {left !== null && (
        <>
          <Panel id="left" defaultSize={leftSize} minSize={150} maxSize="60%" groupResizeBehavior="preserve-pixel-size">
            <Box sx={{ bgcolor: 'background.paper', height: '100%', overflow: 'auto' }}>{left}</Box>
          </Panel>
          <Line label="Width of the left pane" />
        </>
      )}
      <Panel id="middle" minSize={240}>
        {children}
      </Panel>
      {right !== null && (
        <>
          <Line label="Width of the right pane" />
          <Panel id="right" defaultSize={308} minSize={240} maxSize="60%" groupResizeBehavior="preserve-pixel-size">
            <Box sx={{ bgcolor: 'background.paper', height: '100%', overflow: 'auto' }}>{right}</Box>
          </Panel>
        </>
      )}
    </Group>
  );
}

function Line({ label }: { readonly label: string }) {
  return (
    <Box
      component={Separator}
      aria-label={label}
      sx={{
        width: '1px',
        bgcolor: 'divider',
        '&:focus-visible, &[data-separator="hover"], &[data-separator="active"], &[data-separator="focus"]': {
          bgcolor: 'tally.selection',
          outline: 1,
          outlineColor: 'tally.selection',
        },
      }}
    />
  );
}
