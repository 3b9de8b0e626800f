import { Box, Button, Checkbox, FormControlLabel, MenuItem, Select } from '@mui/material';
import { type Allowance, describeBase, GROUP_FIELDS, type GroupField, nameGroup } from '@tally/core';
import { useState } from 'react';
import { useProjectState } from '../../store/project-store.tsx';
import { usePlanLabels } from '../../store/queries.ts';
import { SheetButton } from '../../ui/sheet-button.tsx';

/** What a per cent is of: all costs or those of a group of the plan, and which other per cents it goes on top of. */
export function PercentBaseButton({
  allowance: a,
  others,
  onKeep,
}: {
  readonly allowance: Allowance;
  /** Codes of the other per cents. */
  readonly others: readonly string[];
  readonly onKeep: (of: Allowance['of']) => void;
}) {
  const words = describeBase({ ...a.of });
  return (
    <Box title={`Of ${words}`} sx={{ '& .MuiButton-root': { fontSize: 12, px: 0.75, py: 0.25, width: '100%' } }}>
      <SheetButton label={a.of?.groups?.map((g) => g.is).join(', ') || 'of all'} width={420}>
        <BaseForm allowance={a} others={others} onKeep={onKeep} />
      </SheetButton>
    </Box>
  );
}

function BaseForm({
  allowance: a,
  others,
  onKeep,
}: {
  readonly allowance: Allowance;
  readonly others: readonly string[];
  readonly onKeep: (of: Allowance['of']) => void;
}) {
  const { project } = useProjectState('project');
  const first = a.of?.groups?.[0];
  const [by, setBy] = useState<GroupField | ''>((first?.by as GroupField | undefined) ?? '');
  const known = usePlanLabels(project.id, by);
  // The one that is kept stands there even where the plan has no such group.
  const labels = [...new Set([...known, ...(first && first.by === by ? [first.is] : [])])];
  const also = a.of?.also ?? [];
  const keep = (groups: readonly { by: string; is: string }[], onTop: readonly string[]) =>
    onKeep(groups.length === 0 && onTop.length === 0 ? undefined : { ...(groups.length > 0 ? { groups } : {}), ...(onTop.length > 0 ? { also: onTop } : {}) }); // biome-ignore format: one change
  return (
    <Box sx={{ display: 'grid', gap: 1, fontSize: 13 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        Of
        <Select
          value={by}
          displayEmpty
          onChange={(e) => {
            const next = e.target.value as GroupField | '';
            setBy(next);
            if (next === '') keep([], also);
          }}
          inputProps={{ 'aria-label': `${a.name} is of` }}
          sx={{ fontSize: 13 }}
        >
          <MenuItem value="">all costs but per cents</MenuItem>
          {GROUP_FIELDS.map((f) => (
            <MenuItem key={f} value={f}>
              {nameGroup(f).word}
            </MenuItem>
          ))}
        </Select>
        {by !== '' && (
          <Select
            value={first?.by === by ? first.is : ''}
            displayEmpty
            onChange={(e) => keep([{ by, is: e.target.value }], also)}
            inputProps={{ 'aria-label': `Group of ${a.name}` }}
            sx={{ fontSize: 13, minWidth: 140 }}
          >
            <MenuItem value="" disabled>
              which
            </MenuItem>
            {labels.map((label) => (
              <MenuItem key={label} value={label}>
                {label}
              </MenuItem>
            ))}
          </Select>
        )}
      </Box>
      {others.length > 0 && (
        <Box>
          On top of other per cents
          {others.map((code) => (
            <Box key={code}>
              <FormControlLabel
                control={
                  <Checkbox
                    size="small"
                    checked={also.includes(code)}
                    onChange={(e) =>
                      keep(a.of?.groups ?? [], e.target.checked ? [...also, code] : also.filter((c) => c !== code))
                    }
                  />
                }
                label={code}
              />
            </Box>
          ))}
        </Box>
      )}
      <Box>
        <Button color="inherit" onClick={() => keep([], [])}>
          Of all costs again
        </Button>
      </Box>
    </Box>
  );
}
