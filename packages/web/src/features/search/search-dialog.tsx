import { Autocomplete, Box, Dialog, TextField } from '@mui/material';
import { foldText, readText } from '@tally/core';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useProjectState } from '../../store/project-store.tsx';
import { useSelection } from '../../store/selection.tsx';
import { useClassification, useElements } from '../../store/use-elements.ts';
import { showFigure } from '../../ui/format.ts';

interface Found {
  readonly kind: 'Page' | 'Element' | 'Cost item' | 'Assembly' | 'Named value' | 'Scale' | 'Class' | 'Rule';
  readonly label: string;
  readonly note: string;
  readonly folded: string;
  readonly open: () => void;
}

/** Of each kind so many are shown: a building has thousands of walls, and what else is called so must be seen too. */
const MOST = 15;

/** Finds anything of a project by its name: pages, elements, what is in the book, rules. */
export function SearchDialog({
  onClose,
  pages,
}: {
  readonly onClose: () => void;
  readonly pages: readonly (readonly [string, string])[];
}) {
  const { project, basis } = useProjectState('project', 'basis');
  const classification = useClassification();
  const { models } = useElements();
  const { select, frame } = useSelection();
  const navigate = useNavigate();
  const [query, setQuery] = useState('');
  const all = useMemo(() => {
    const go = (path: string) => () => void navigate(`/projects/${project.id}/${path}`);
    const found = (kind: Found['kind'], label: string, note: string, open: () => void): Found => ({
      kind,
      label,
      note,
      folded: foldText(`${label} ${note}`),
      open,
    });
    const list: Found[] = pages.map(([path, label]) => found('Page', label, '', go(path)));
    for (const i of basis.items)
      list.push(found('Cost item', i.description, i.code, go(`book?item=${encodeURIComponent(i.code)}`)));
    for (const a of basis.assemblies)
      list.push(found('Assembly', a.description, a.code, go(`book?assembly=${encodeURIComponent(a.code)}`)));
    for (const v of basis.values)
      list.push(found('Named value', v.name, v.note ?? '', go(`book?value=${encodeURIComponent(v.name)}`)));
    for (const s of basis.scales)
      list.push(found('Scale', s.name, s.note ?? '', go(`book?scale=${encodeURIComponent(s.name)}`)));
    for (const c of classification.classes) list.push(found('Class', c.title, c.code, go('book?class=')));
    for (const r of basis.rules) list.push(found('Rule', r.name, '', go(`mapping?rule=${encodeURIComponent(r.id)}`)));
    for (const { table } of models) {
      for (let row = 0; row < table.count; row++) {
        const note = [
          readText(table.typeName, row),
          readText(table.tag, row),
          readText(table.storey, row),
          readText(table.identity, row),
        ]
          .filter(Boolean)
          .join(' · ');
        const key = table.keys[row]!;
        list.push(
          found('Element', readText(table.name, row) ?? 'Without a name', note, () => {
            select([key]);
            frame();
            go('model')();
          }),
        );
      }
    }
    return list;
  }, [basis, classification, models, pages, navigate, project.id, select, frame]);
  const hits = useMemo(() => {
    const wanted = foldText(query);
    const shown: Found[] = [];
    const counts = new Map<Found['kind'], number>();
    for (const f of all) {
      if (!f.folded.includes(wanted)) continue;
      const count = (counts.get(f.kind) ?? 0) + 1;
      counts.set(f.kind, count);
      if (count <= MOST) shown.push(f);
    }
    return { shown, counts };
  }, [all, query]);
  const headingOf = ({ kind }: Found): string => {
    const count = hits.counts.get(kind) ?? 0;
    return count > MOST ? `${kind}, the first ${MOST} of ${showFigure(count, 0)}` : kind;
  };
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      maxWidth="sm"
      sx={{ '& .MuiDialog-container': { alignItems: 'flex-start', pt: 8 } }}
    >
      <Autocomplete
        open
        options={hits.shown}
        filterOptions={(x) => x}
        getOptionLabel={(f) => f.label}
        getOptionKey={(f) => `${f.kind}/${f.label}/${f.note}/${all.indexOf(f)}`}
        groupBy={headingOf}
        inputValue={query}
        onInputChange={(_, text, reason) => reason === 'input' && setQuery(text)}
        onChange={(_, f) => {
          onClose();
          f?.open();
        }}
        autoHighlight
        noOptionsText="Nothing of that name"
        renderOption={({ key, ...props }, f) => (
          <Box component="li" key={key} {...props} sx={{ display: 'flex', gap: 1, minHeight: '30px !important' }}>
            <span>{f.label}</span>
            <Box
              component="span"
              sx={{
                color: 'text.secondary',
                fontSize: 12,
                overflow: 'hidden',
                textOverflow: 'ellipsis',
                whiteSpace: 'nowrap',
              }}
            >
              {f.note}
            </Box>
          </Box>
        )}
        renderInput={(params) => (
          <TextField {...params} autoFocus placeholder="Find an element, an item, a rule or a page" />
        )}
        sx={{ p: 1 }}
      />
    </Dialog>
  );
}
