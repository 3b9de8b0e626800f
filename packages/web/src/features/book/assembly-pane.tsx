import { Box } from '@mui/material';
import { type Assembly, codeKey } from '@tally/core';
import { useState } from 'react';
import { useBasis } from '../../store/project-store.tsx';
import { showUnit } from '../../ui/format.ts';
import { AssemblyRecipe } from './assembly-recipe.tsx';
import { useIsOwn } from './back-to-book.tsx';
import { BookList, PANE_SX } from './book-list.tsx';

/** A code that no assembly has yet. */
function freeCode(wanted: string, taken: readonly Assembly[]): string {
  const isTaken = (code: string) => taken.some((a) => codeKey(a.code) === codeKey(code));
  for (let n = 2; ; n++) if (!isTaken(`${wanted}-${n}`)) return `${wanted}-${n}`;
}

/** Assemblies: the list, and the chosen one as a recipe whose lines are checked while typing. */
export function AssemblyPane({ code, onChoose }: { readonly code: string; readonly onChoose: (code: string) => void }) {
  const basis = useBasis('assemblies');
  const isOwn = useIsOwn();
  const [added, setAdded] = useState<Assembly | null>(null);
  const chosen = added ?? basis.assemblies.find((a) => a.code === code) ?? basis.assemblies[0];
  return (
    <Box sx={PANE_SX}>
      <BookList
        label="Assemblies"
        entries={basis.assemblies.map((a) => ({
          id: a.code,
          title: a.description,
          note: `${a.code}, per ${showUnit(a.unit)}`,
          isOwn: isOwn('assembly', a.code),
        }))}
        chosen={added ? null : (chosen?.code ?? null)}
        onChoose={(id) => {
          setAdded(null);
          onChoose(id);
        }}
        addLabel="New assembly"
        onAdd={() => setAdded({ code: '', description: '', unit: 'm2', lines: [] })}
      />
      {chosen ? (
        <AssemblyRecipe
          key={added ? `new ${added.code}` : chosen.code}
          assembly={chosen}
          isNew={added !== null}
          onDuplicate={(draft) => setAdded({ ...draft, code: freeCode(draft.code, basis.assemblies) })}
          onKept={(kept) => {
            setAdded(null);
            onChoose(kept);
          }}
        />
      ) : (
        <Box sx={{ color: 'text.secondary' }}>No assemblies yet.</Box>
      )}
    </Box>
  );
}
