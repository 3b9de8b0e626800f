import { closestCenter, DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import { Box, ButtonBase, IconButton, Menu, MenuItem } from '@mui/material';
import { type GroupField, nameGroup } from '@tally/core';
import { useState } from 'react';

/** Levels that a plan can be grouped by. */
const MOST_LEVELS = 8;

/** What the plan is broken down by, the outermost first: a level is dragged, or moved with the arrow keys, taken away with Delete, changed with Enter. */
export function PlanLevels({
  levels,
  fields,
  onChange,
}: {
  readonly levels: readonly GroupField[];
  readonly fields: readonly GroupField[];
  readonly onChange: (levels: readonly GroupField[]) => void;
}) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const drop = ({ active, over }: DragEndEvent) => {
    const [from, to] = [levels.indexOf(active.id as GroupField), levels.indexOf(over?.id as GroupField)];
    if (from >= 0 && to >= 0 && from !== to) onChange(moveLevel(levels, from, to));
  };
  const [menu, setMenu] = useState<{ readonly at: HTMLElement; readonly level: number } | null>(null);
  const choose = (field: GroupField) => {
    if (menu) onChange(menu.level < levels.length ? levels.map((f, i) => (i === menu.level ? field : f)) : [...levels, field]); // biome-ignore format: one step
    setMenu(null);
  };
  return (
    <Box
      role="group"
      aria-label="Grouped by"
      sx={{ display: 'flex', alignItems: 'center', gap: 0.5, minWidth: 0, flexWrap: 'nowrap' }}
    >
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
        <SortableContext items={[...levels]} strategy={horizontalListSortingStrategy}>
          {levels.map((field, i) => (
            <Level
              key={field}
              field={field}
              place={i}
              of={levels.length}
              onOpen={(at) => setMenu({ at, level: i })}
              onMove={(to) => onChange(moveLevel(levels, i, to))}
              onRemove={() => onChange(levels.filter((f) => f !== field))}
            />
          ))}
        </SortableContext>
      </DndContext>
      {levels.length < MOST_LEVELS && (
        <ButtonBase
          aria-label="Group by one more"
          onClick={(e) => setMenu({ at: e.currentTarget, level: levels.length })}
          sx={{
            fontSize: 12.5,
            px: 0.75,
            py: 0.25,
            border: 1,
            borderColor: 'divider',
            borderStyle: 'dashed',
            borderRadius: 1,
            whiteSpace: 'nowrap',
            color: 'text.secondary',
          }}
        >
          <AddIcon sx={{ fontSize: 15, mr: levels.length === 0 ? 0.5 : 0 }} />
          {levels.length === 0 ? 'group by' : ''}
        </ButtonBase>
      )}
      <Menu
        open={menu !== null}
        anchorEl={menu?.at ?? null}
        onClose={() => setMenu(null)}
        slotProps={{ paper: { sx: { maxHeight: 420 } } }}
      >
        {fields
          .filter((f) => !levels.includes(f) || levels[menu?.level ?? -1] === f)
          .map((f) => (
            <MenuItem
              key={f}
              selected={levels[menu?.level ?? -1] === f}
              onClick={() => choose(f)}
              title={nameGroup(f).hint}
              sx={{ fontSize: 13 }}
            >
              {nameGroup(f).word}
            </MenuItem>
          ))}
      </Menu>
    </Box>
  );
}

/** Levels with one of them at another place. @example moveLevel(['a', 'b', 'c'], 2, 0) // ['c', 'a', 'b'] */
export function moveLevel<T>(levels: readonly T[], from: number, to: number): T[] {
  const rest = levels.filter((_, i) => i !== from);
  rest.splice(Math.max(0, Math.min(to, rest.length)), 0, levels[from]!);
  return rest;
}

function Level({
  field,
  place,
  of,
  onOpen,
  onMove,
  onRemove,
}: {
  readonly field: GroupField;
  readonly place: number;
  readonly of: number;
  readonly onOpen: (at: HTMLElement) => void;
  readonly onMove: (to: number) => void;
  readonly onRemove: () => void;
}) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: field });
  const { word, hint } = nameGroup(field);
  return (
    <Box
      ref={setNodeRef}
      {...listeners}
      sx={{
        display: 'flex',
        alignItems: 'center',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1,
        bgcolor: 'background.paper',
        opacity: isDragging ? 0.6 : 1,
        whiteSpace: 'nowrap',
      }}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <ButtonBase
        title={hint}
        aria-label={`Level ${place + 1} of ${of}: ${word}`}
        onClick={(e) => onOpen(e.currentTarget)}
        onKeyDown={(e) => {
          if (e.key === 'ArrowLeft') onMove(place - 1);
          else if (e.key === 'ArrowRight') onMove(place + 1);
          else if (e.key === 'Delete' || e.key === 'Backspace') onRemove();
          else return;
          e.preventDefault();
        }}
        sx={{ fontSize: 12.5, pl: 1, pr: 0.25, py: 0.25 }}
      >
        {word}
      </ButtonBase>
      <IconButton aria-label={`Not by ${word}`} onClick={onRemove} sx={{ p: 0.25 }}>
        <CloseIcon sx={{ fontSize: 14 }} />
      </IconButton>
    </Box>
  );
}
