import AddIcon from '@mui/icons-material/Add';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { Autocomplete, Box, Button, IconButton, TextField, Typography } from '@mui/material';
import { type Assembly, assemblySchema, type BuildUpLine, type FormulaName, parseUnit } from '@tally/core';
import { useState } from 'react';
import { useProjectState, useQuantityNames } from '../../api/project-context.tsx';
import { useChange } from '../../api/use-change.ts';
import { showUnit } from '../../ui/format.ts';
import { checkFormula, FormulaField } from '../../ui/formula-field.tsx';

/** Assemblies: the list, and the chosen one as a recipe whose formulas are checked while typing. */
export function AssemblyPane({ code, onChoose }: { readonly code: string; readonly onChoose: (code: string) => void }) {
  const { basis } = useProjectState();
  const chosen = basis.assemblies.find((a) => a.code === code) ?? basis.assemblies[0];
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'grid', gridTemplateColumns: '230px minmax(0, 1fr)', gap: 1.5 }}>
      <Box
        component="ul"
        aria-label="Assemblies"
        sx={{
          listStyle: 'none',
          m: 0,
          p: 0,
          overflow: 'auto',
          bgcolor: 'background.paper',
          border: 1,
          borderColor: 'divider',
          borderRadius: 1,
        }}
      >
        {basis.assemblies.map((a) => (
          <Box component="li" key={a.code}>
            <Box
              component="button"
              type="button"
              aria-current={a.code === chosen?.code}
              onClick={() => onChoose(a.code)}
              sx={{
                all: 'unset',
                boxSizing: 'border-box',
                display: 'block',
                width: '100%',
                px: 1.5,
                py: 0.75,
                cursor: 'pointer',
                borderBottom: 1,
                borderColor: 'divider',
                bgcolor: a.code === chosen?.code ? 'tally.selectionSoft' : undefined,
                '&:hover': { bgcolor: 'tally.petrolSoft' },
                '&:focus-visible': { outline: 2, outlineColor: 'tally.selection', outlineOffset: -2 },
              }}
            >
              <Box sx={{ fontSize: 13, fontWeight: 600 }}>{a.description}</Box>
              <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
                {a.code}, per {showUnit(a.unit)}
              </Box>
            </Box>
          </Box>
        ))}
      </Box>
      {chosen ? (
        <Recipe key={JSON.stringify(chosen)} assembly={chosen} />
      ) : (
        <Box sx={{ color: 'text.secondary' }}>No assemblies yet.</Box>
      )}
    </Box>
  );
}

function Recipe({ assembly }: { readonly assembly: Assembly }) {
  const { project, basis } = useProjectState();
  const change = useChange(project.id);
  const [draft, setDraft] = useState<Assembly>(assembly);
  const unitOf = (text: string) => {
    const unit = parseUnit(text);
    return unit.ok ? unit.value.dimension : {};
  };
  const names: FormulaName[] = [
    ...useQuantityNames(),
    { name: 'Driver', dimension: unitOf(draft.unit), source: 'driver' },
    ...(draft.parameters ?? []).map(
      (p): FormulaName => ({ name: p.name, dimension: unitOf(p.unit), source: 'parameter' }),
    ),
  ];
  const choices = [
    ...basis.items.map((i) => ({ code: i.code, label: `${i.code} ${i.description}`, unit: i.unit, isItem: true })),
    ...basis.assemblies
      .filter((a) => a.code !== draft.code)
      .map((a) => ({ code: a.code, label: `${a.code} ${a.description}`, unit: a.unit, isItem: false })),
  ];
  const choiceOf = (l: BuildUpLine) => choices.find((c) => c.code === (l.item ?? l.assembly));
  const faults = [
    ...draft.lines.flatMap((l) => [
      checkFormula(l.quantity, choiceOf(l)?.unit ?? 'each', names),
      l.when ? checkFormula(l.when, undefined, names) : null,
    ]),
    ...(draft.parameters ?? []).map((p) => checkFormula(p.value, p.unit, names)),
  ].filter((f) => f !== null);
  const isChanged = JSON.stringify(draft) !== JSON.stringify(assembly);
  const setLine = (i: number, line: Partial<BuildUpLine>) =>
    setDraft({ ...draft, lines: draft.lines.map((l, n) => (n === i ? { ...l, ...line } : l)) });
  const save = () => {
    const body = JSON.parse(
      JSON.stringify({
        ...draft,
        lines: draft.lines.map((l) => ({ ...l, when: l.when?.trim() ? l.when : undefined })),
      }),
    ) as Assembly;
    if (assemblySchema.safeParse(body).success)
      change.mutate({
        cause: `Assembly changed: ${assembly.code} ${draft.description}`,
        diff: { updated: [{ kind: 'assembly', id: assembly.code, from: assembly, to: body }] },
      });
  };
  return (
    <Box
      sx={{
        overflow: 'auto',
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1,
        p: 2,
        display: 'grid',
        gap: 2,
        alignContent: 'start',
      }}
    >
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {draft.description}
        </Typography>
        <Box sx={{ fontSize: 13, color: 'text.secondary' }}>Driver in {showUnit(draft.unit)}</Box>
        <Button disabled={!isChanged} color="inherit" onClick={() => setDraft(assembly)}>
          Discard
        </Button>
        <Button variant="contained" disabled={!isChanged || faults.length > 0 || change.isPending} onClick={save}>
          Save the assembly
        </Button>
      </Box>
      {(draft.parameters ?? []).length > 0 && (
        <Box sx={{ display: 'grid', gap: 1 }}>
          <Typography variant="h3">Parameters</Typography>
          {draft.parameters!.map((p, i) => (
            <Box
              key={p.name}
              sx={{
                display: 'grid',
                gridTemplateColumns: '120px minmax(0, 320px) 1fr',
                gap: 2,
                alignItems: 'baseline',
              }}
            >
              <Box sx={{ fontSize: 13, fontWeight: 600 }}>{p.name}</Box>
              <FormulaField
                label="Value"
                value={p.value}
                unit={p.unit}
                names={names}
                onChange={(value) =>
                  setDraft({ ...draft, parameters: draft.parameters!.map((q, n) => (n === i ? { ...q, value } : q)) })
                }
              />
              <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{p.note}</Box>
            </Box>
          ))}
        </Box>
      )}
      <Box sx={{ display: 'grid', gap: 1.5 }}>
        <Typography variant="h3">Lines</Typography>
        {draft.lines.map((l, i) => (
          <Box
            key={i}
            sx={{
              display: 'grid',
              gridTemplateColumns: 'minmax(180px, 1fr) minmax(180px, 1.2fr) minmax(120px, 0.7fr) 32px',
              gap: 1,
              alignItems: 'start',
            }}
          >
            <Autocomplete
              disableClearable
              options={choices}
              value={choiceOf(l) ?? choices[0]!}
              getOptionKey={(c) => c.code}
              getOptionLabel={(c) => c.label}
              onChange={(_, c) =>
                setLine(i, c.isItem ? { item: c.code, assembly: undefined } : { assembly: c.code, item: undefined })
              }
              renderInput={(p) => <TextField {...p} label="Item or assembly" helperText={l.note ?? ' '} />}
            />
            <FormulaField
              label="How much"
              value={l.quantity}
              unit={choiceOf(l)?.unit ?? 'each'}
              names={names}
              onChange={(quantity) => setLine(i, { quantity })}
            />
            <FormulaField
              label="Only where"
              value={l.when ?? ''}
              names={names}
              isOptional
              onChange={(when) => setLine(i, { when })}
            />
            <IconButton
              aria-label="Take this line out"
              onClick={() => setDraft({ ...draft, lines: draft.lines.filter((_, n) => n !== i) })}
            >
              <DeleteOutlineIcon fontSize="small" />
            </IconButton>
          </Box>
        ))}
        <Box>
          <Button
            startIcon={<AddIcon />}
            onClick={() =>
              setDraft({ ...draft, lines: [...draft.lines, { item: basis.items[0]?.code ?? '', quantity: 'Driver' }] })
            }
          >
            Add a line
          </Button>
        </Box>
      </Box>
    </Box>
  );
}
