import { Box, Button, Typography } from '@mui/material';
import {
  type Classification,
  type ClassListDto,
  listClassPath,
  readClassCode,
  takeOutDiff,
  UNIFORMAT,
} from '@tally/core';
import { useMemo, useRef, useState } from 'react';
import { uploadFile } from '../../store/client.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit, useProblemNotice } from '../../store/use-commit.ts';
import { useClassification } from '../../store/use-elements.ts';
import { FileInput } from '../../ui/file-input.tsx';
import { saveText, toCsv } from '../../ui/save-file.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { BookList, PANE_SX, SHEET_SX } from './book-list.tsx';
import { BroughtClasses } from './brought-classes.tsx';

/** Classifications that items, assemblies and the plan are sorted by: the one that comes with the application, and own ones. */
export function ClassesPane() {
  const { project, classifications } = useProjectState('project', 'classifications');
  const notice = useProblemNotice();
  const input = useRef<HTMLInputElement>(null);
  const [wanted, setWanted] = useState<string | null>(null);
  const [brought, setBrought] = useState<ClassListDto | null>(null);
  const inUse = useClassification();
  const all = [UNIFORMAT, ...classifications];
  const chosen = all.find((c) => c.name === wanted) ?? inUse;
  const bring = async (file: File) => {
    try {
      setBrought(await uploadFile<ClassListDto>(`/projects/${project.id}/classifications`, file));
    } catch (failed) {
      notice(failed);
    }
  };
  return (
    <Box sx={PANE_SX}>
      <BookList
        label="Classifications"
        entries={all.map((c) => ({
          id: c.name,
          title: c.name,
          note: `${c.classes.length} classes${c.name === inUse.name ? ', in use' : ''}`,
        }))}
        chosen={brought ? null : chosen.name}
        onChoose={(name) => {
          setBrought(null);
          setWanted(name);
        }}
        addLabel="Bring a list"
        onAdd={() => input.current?.click()}
      />
      <FileInput ref={input} label="Classification file" accept=".csv,.xlsx,.txt" onFile={(file) => void bring(file)} />
      {brought ? (
        <BroughtClasses
          key={brought.name}
          brought={brought}
          onDone={(name) => {
            setBrought(null);
            if (name !== null) setWanted(name);
          }}
        />
      ) : (
        <ClassSheet key={chosen.name} classification={chosen} isInUse={chosen.name === inUse.name} />
      )}
    </Box>
  );
}

interface ClassRow {
  readonly code: string;
  readonly title: string;
  readonly level: number;
  readonly items: number;
  readonly assemblies: number;
}

function ClassSheet({
  classification,
  isInUse,
}: {
  readonly classification: Classification;
  readonly isInUse: boolean;
}) {
  const { project, book } = useProjectState('project', 'book');
  const basis = useBasis('assemblies', 'items', 'settings');
  const change = useCommit(project.id);
  const { name } = classification;
  const isOwn = classification !== UNIFORMAT;
  const rows = useMemo((): ClassRow[] => {
    const count = (list: readonly { readonly classes?: Readonly<Record<string, string>> }[]) => {
      const counts = new Map<string, number>();
      for (const { classes } of list) {
        const code = readClassCode(classes, classification)?.toLowerCase();
        if (code !== undefined) counts.set(code, (counts.get(code) ?? 0) + 1);
      }
      return (code: string) => counts.get(code.toLowerCase()) ?? 0;
    };
    const [items, assemblies] = [count(basis.items), count(basis.assemblies)];
    return classification.classes.map(({ code, title }) => ({
      code,
      title,
      level: listClassPath(classification, code).length - 1,
      items: items(code),
      assemblies: assemblies(code),
    }));
  }, [classification, basis.items, basis.assemblies]);
  const use = () => {
    const { settings } = basis;
    const to = { ...settings, classification: isOwn ? name : undefined };
    change.mutate({
      cause: `Prices are sorted by ${name}`,
      diff: { updated: [{ kind: 'settings', id: 'project', from: settings, to }] },
    });
  };
  const columns: TableColumn<ClassRow>[] = [
    { key: 'code', heading: 'Code', width: 150, cell: (r) => r.code },
    { key: 'title', heading: 'Title', width: 0, cell: (r) => r.title },
    { key: 'items', heading: 'Items', width: 80, isFigure: true, cell: (r) => (r.items === 0 ? '' : String(r.items)) },
    {
      key: 'assemblies',
      heading: 'Assemblies',
      width: 96,
      isFigure: true,
      cell: (r) => (r.assemblies === 0 ? '' : String(r.assemblies)),
    },
  ];
  return (
    <Box
      component="section"
      aria-label="Classification"
      sx={{ ...SHEET_SX, gridTemplateRows: 'auto minmax(0, 1fr)', alignContent: 'stretch' }}
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {name}
        </Typography>
        {isInUse ? (
          <Box sx={{ fontSize: 13, color: 'text.secondary' }}>Items, assemblies and the plan are sorted by it.</Box>
        ) : (
          <Button variant="contained" disabled={change.isPending} onClick={use}>
            Sort by this one
          </Button>
        )}
        {isOwn && (
          <Button
            color="inherit"
            disabled={isInUse || change.isPending}
            title={isInUse ? 'It is in use; sort by another first' : undefined}
            onClick={() =>
              change.mutate({
                cause: `Classification taken out: ${name}`,
                diff: takeOutDiff('classification', name, classification, book),
              })
            }
          >
            Take out
          </Button>
        )}
        <Button
          color="inherit"
          onClick={() =>
            saveText(`${name}.csv`, toCsv([['Code', 'Title'], ...classification.classes.map((c) => [c.code, c.title])]))
          }
        >
          CSV
        </Button>
      </Box>
      <Box sx={{ minHeight: 0, display: 'flex' }}>
        <VirtualTable label="Classes" rows={rows} columns={columns} rowId={(r) => r.code} level={(r) => r.level} />
      </Box>
    </Box>
  );
}
