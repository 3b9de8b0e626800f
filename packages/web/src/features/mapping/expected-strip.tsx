import { Autocomplete, Box, TextField } from '@mui/material';
import { classWord, type EntryDiff, type ExpectedSections } from '@tally/core';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';

/** The change that lets a class be expected in other sections; none at all takes the expectation away. */
export function changeExpected(
  before: ExpectedSections | undefined,
  ifcClass: string,
  sections: readonly string[],
): { readonly cause: string; readonly diff: Partial<EntryDiff> } {
  const entry = { kind: 'expected', id: ifcClass };
  const body = { ifcClass, sections };
  const cause = `Sections that ${classWord(ifcClass)} is expected in`;
  if (!before) return { cause, diff: { added: [{ ...entry, body }] } };
  if (sections.length === 0) return { cause, diff: { removed: [{ ...entry, body: before }] } };
  return { cause, diff: { updated: [{ ...entry, from: before, to: body }] } };
}

/** Which sections every element of a class is to be priced in: what is not is found as missing. */
export function ExpectedStrip({ ifcClass }: { readonly ifcClass: string }) {
  const { project } = useProjectState('project');
  const { sections, expected = [] } = useBasis('sections', 'expected');
  const commit = useCommit(project.id);
  const before = expected.find((e) => e.ifcClass === ifcClass);
  const chosen = sections.filter((s) => before?.sections.includes(s.id));
  return (
    <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
      <Box sx={{ whiteSpace: 'nowrap' }}>
        Every <b>{classWord(ifcClass)}</b> is expected in
      </Box>
      <Autocomplete
        multiple
        options={sections}
        value={chosen}
        disabled={commit.isPending}
        getOptionKey={(s) => s.id}
        getOptionLabel={(s) => s.name}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        onChange={(_, list) =>
          commit.mutate(
            changeExpected(
              before,
              ifcClass,
              list.map((s) => s.id),
            ),
          )
        }
        renderInput={(p) => (
          <TextField
            {...p}
            placeholder={chosen.length === 0 ? 'no section in particular' : ''}
            slotProps={{ ...p.slotProps, htmlInput: { ...p.slotProps.htmlInput, 'aria-label': 'Expected in' } }}
          />
        )}
        sx={{ flex: 1, minWidth: 0 }}
      />
    </Box>
  );
}
