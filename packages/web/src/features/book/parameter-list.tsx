import AddIcon from '@mui/icons-material/Add';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { Autocomplete, Box, Button, IconButton, TextField, Typography } from '@mui/material';
import { type AssemblyParameter, type FormulaNames, type Problem, UNIT_SYMBOLS } from '@tally/core';
import { describeProblem, FormulaText } from '../../ui/formula-field.tsx';

/** Parameters of an assembly: what a rule may set, each with its value while nothing else is said. */
export function ParameterList({
  parameters,
  names,
  problems,
  onChange,
}: {
  readonly parameters: readonly AssemblyParameter[];
  readonly names: FormulaNames;
  readonly problems: readonly (Problem | null)[];
  readonly onChange: (parameters: readonly AssemblyParameter[]) => void;
}) {
  const set = (i: number, part: Partial<AssemblyParameter>) =>
    onChange(parameters.map((p, n) => (n === i ? { ...p, ...part } : p)));
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Typography variant="h3">Parameters</Typography>
        <Button
          size="small"
          startIcon={<AddIcon />}
          color="inherit"
          onClick={() => onChange([...parameters, { name: `value${parameters.length + 1}`, unit: 'm', value: '1 m' }])}
        >
          Add a parameter
        </Button>
      </Box>
      {parameters.map((p, i) => {
        const problem = problems[i];
        return (
          <Box
            key={i}
            sx={{
              display: 'grid',
              gridTemplateColumns: '130px 110px minmax(160px, 1fr) minmax(160px, 1.2fr) 32px',
              gap: 1,
              alignItems: 'start',
            }}
          >
            <TextField label="Parameter" value={p.name} onChange={(e) => set(i, { name: e.target.value })} />
            <Autocomplete
              freeSolo
              disableClearable
              options={['number', ...UNIT_SYMBOLS]}
              inputValue={p.unit}
              onInputChange={(_, unit) => set(i, { unit })}
              renderInput={(props) => <TextField {...props} label="In" />}
            />
            <FormulaText
              label="Value"
              value={p.value}
              names={names}
              problem={problem ? describeProblem(problem, p.value) : null}
              onChange={(value) => set(i, { value })}
            />
            <TextField
              label="Note"
              value={p.note ?? ''}
              onChange={(e) => set(i, { note: e.target.value || undefined })}
            />
            <IconButton
              aria-label={`Take the parameter ${p.name} out`}
              onClick={() => onChange(parameters.filter((_, n) => n !== i))}
            >
              <DeleteOutlineIcon fontSize="small" />
            </IconButton>
          </Box>
        );
      })}
    </Box>
  );
}
