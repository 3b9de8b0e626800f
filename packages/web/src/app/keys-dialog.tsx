import { Box, Dialog, DialogContent, DialogTitle } from '@mui/material';

const KEYS: readonly (readonly [string, string])[] = [
  ['Ctrl/⌘ K', 'Find an element, an item, a rule or a page'],
  ['Ctrl/⌘ Z', 'Undo your last change'],
  ['Ctrl/⌘ Shift Z', 'Redo it'],
  ['Alt 1 … 9', 'Go to a place: Sources, Model, … in their order, Findings, Settings'],
  ['T', 'The tape narrow, or whole'],
  ['O', 'From an option, or from the plan as it was, back to the plan'],
  ['Arrows', 'Move in a table'],
  ['Enter', 'Edit the cell, or open the row'],
  ['Shift arrows', 'Draw a range in a table; the mouse does too'],
  ['Ctrl/⌘ A', 'All of a table'],
  ['Ctrl/⌘ C', 'Copy the range, or the whole table, for a spreadsheet'],
  ['Ctrl/⌘ V', 'Paste a block into the range'],
  ['Ctrl/⌘ D', 'Fill down: the range from its first row, a cell from above'],
  ['Shift and drag', 'Model: select what is seen in a rectangle'],
  ['M', 'Model: measure between two places'],
  ['F', 'Model: fit everything'],
  ['S', 'Model: show the selection'],
  ['I, H, A', 'Model: only the selection, hide it, show all'],
  ['L, D', 'Model: the list of elements, the details of the selection: away or back'],
  ['P', 'Model: what elements cost, written at them'],
  ['K', 'Plan: mark what is selected as checked, or take the mark off'],
  ['E', 'Plan: how a figure came about, beside it, away or back'],
  ['Arrows, Delete', 'Plan: a level of the breakdown moved, taken away'],
  ['D', 'Plan, changes, findings: the model beside the page, away or back'],
  ['Esc', 'Model: select nothing'],
  ['?', 'These keys'],
];

export function KeysDialog({ onClose }: { readonly onClose: () => void }) {
  return (
    <Dialog open onClose={onClose}>
      <DialogTitle>Keys</DialogTitle>
      <DialogContent>
        <Box component="dl" sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', columnGap: 3, rowGap: 0.75, m: 0 }}>
          {KEYS.map(([key, what]) => [
            <Box component="dt" key={key} sx={{ fontWeight: 650 }}>
              {key}
            </Box>,
            <Box component="dd" key={what} sx={{ m: 0, color: 'text.secondary' }}>
              {what}
            </Box>,
          ])}
        </Box>
      </DialogContent>
    </Dialog>
  );
}
