import { Box, Button, Dialog, DialogContent, DialogTitle, MenuItem, TextField } from '@mui/material';
import { sayInWords, type TemplateFit } from '@tally/core';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { ApiProblem, postJson } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { useProjects } from '../../store/queries.ts';
import { DialogFoot } from '../../ui/dialog-foot.tsx';
import { FileInput } from '../../ui/file-input.tsx';

const STARTER = 'starter';
const DEMO = 'demo';
const FILE = 'file';

/** What kinds of entries are called that come with a template, one and several. */
const KIND_WORDS: Readonly<Record<string, readonly [string, string]>> = {
  item: ['cost item', 'cost items'],
  assembly: ['assembly', 'assemblies'],
  value: ['named value', 'named values'],
  scale: ['scale', 'scales'],
  classification: ['classification', 'classifications'],
  section: ['work section', 'work sections'],
  rule: ['rule', 'rules'],
  expected: ['expectation of a class', 'expectations of classes'],
  band: ['band', 'bands'],
  allowance: ['allowance', 'allowances'],
  settings: ['what is set of the project', 'what is set of the project'],
  scope: ['named scope', 'named scopes'],
};

type Fit = TemplateFit & { readonly idle: readonly string[] };

const reasonOf = (error: unknown): string =>
  error instanceof ApiProblem ? `${error.problem.detail} ${error.problem.remedy ?? ''}`.trim() : String(error);

/** Takes the rules and the book of a template, or of another project, after showing what comes, what changes and what would not work here. */
export function TemplateDialog({ onClose }: { readonly onClose: () => void }) {
  const { project } = useProjectState('project');
  const { data: projects = [] } = useProjects();
  const [from, setFrom] = useState('');
  const [file, setFile] = useState<{ readonly name: string; readonly template: unknown } | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const asked =
    from === STARTER
      ? { starter: true }
      : from === DEMO
        ? { demo: true }
        : from === FILE
          ? file && { template: file.template }
          : from !== ''
            ? { templateOf: from }
            : null;
  const check = useQuery({
    queryKey: ['project', project.id, 'template-fit', from, file?.name ?? ''],
    queryFn: () => postJson<Fit>(`/projects/${project.id}/template/check`, asked),
    enabled: asked !== null,
    retry: false,
    gcTime: 0,
  });
  const bring = async (chosen: File) => {
    setRefusal(null);
    try {
      setFile({ name: chosen.name, template: JSON.parse(await chosen.text()) });
      setFrom(FILE);
    } catch {
      setRefusal(`${chosen.name} is no template: it cannot be read as JSON.`);
    }
  };
  const take = async () => {
    setBusy(true);
    try {
      await postJson(`/projects/${project.id}/template`, asked);
      onClose();
    } catch (error) {
      setRefusal(reasonOf(error));
    } finally {
      setBusy(false);
    }
  };
  const fit = check.data;
  const isNothingNew = fit !== undefined && Object.values(fit.counts).every((c) => c.added + c.changed === 0);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Take a template</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5, pt: '8px !important', fontSize: 13 }}>
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <TextField
            select
            label="Rules and book of"
            value={from}
            onChange={(e) => setFrom(e.target.value)}
            sx={{ flex: 1 }}
          >
            <MenuItem value={STARTER}>The rough starter</MenuItem>
            <MenuItem value={DEMO}>The Heron Wharf template</MenuItem>
            {projects
              .filter((p) => p.id !== project.id && p.putAwayAt === null)
              .map((p) => (
                <MenuItem key={p.id} value={p.id}>
                  {p.name}
                </MenuItem>
              ))}
            {file && <MenuItem value={FILE}>{file.name}</MenuItem>}
          </TextField>
          <Button onClick={() => input.current?.click()}>Choose a file</Button>
          <FileInput ref={input} accept=".json" label="Template" onFile={(chosen) => void bring(chosen)} />
        </Box>
        {check.isFetching && <Box sx={{ color: 'text.secondary' }}>It is looked at what fits …</Box>}
        {fit && <Fitting fit={fit} />}
        {(refusal ?? (check.error && reasonOf(check.error))) && (
          <Box role="alert" sx={{ color: 'error.main' }}>
            {refusal ?? reasonOf(check.error)}
          </Box>
        )}
      </DialogContent>
      <DialogFoot
        label={isNothingNew ? 'All of it is there' : 'Take it'}
        isOff={!fit || isBusy || isNothingNew || fit.misfits.some((m) => m.kind === 'code')}
        onAct={() => void take()}
        onCancel={onClose}
      />
    </Dialog>
  );
}

function Fitting({ fit: { counts, changed, misfits, idle } }: { readonly fit: Fit }) {
  const list = (of: 'added' | 'changed' | 'same') =>
    Object.entries(counts)
      .filter(([, c]) => c[of] > 0)
      .map(([kind, c]) => `${c[of]} ${KIND_WORDS[kind]?.[c[of] === 1 ? 0 : 1] ?? kind}`)
      .join(', ');
  return (
    <Box sx={{ display: 'grid', gap: 1 }} data-testid="template-fit">
      <Line title="Comes">{list('added') || 'nothing'}</Line>
      <Line title="Changes">
        {list('changed') || 'nothing'}
        {changed.length > 0 && (
          <Box sx={{ color: 'text.secondary' }}>
            {changed
              .slice(0, 12)
              .filter((c) => c.kind !== 'settings')
              .map((c) => c.id)
              .join(', ')}
            {changed.length > 12 ? ` and ${changed.length - 12} more` : ''}
          </Box>
        )}
      </Line>
      {list('same') && <Line title="Is there already">{list('same')}</Line>}
      {misfits.length > 0 && (
        <Line title="Does not fit">
          <Box
            component="ul"
            aria-label="Does not fit"
            sx={{ m: 0, pl: 2, color: 'error.main', maxHeight: 220, overflow: 'auto' }}
          >
            {misfits.map((m) => (
              <li key={`${m.kind}/${m.id}/${m.message}`}>{sayInWords(m.message)}</li>
            ))}
          </Box>
        </Line>
      )}
      {idle.length > 0 && (
        <Line title="Catches nothing here">
          <Box sx={{ maxHeight: 120, overflow: 'auto', color: 'text.secondary' }}>{idle.join(', ')}</Box>
        </Line>
      )}
    </Box>
  );
}

function Line({ title, children }: { readonly title: string; readonly children: React.ReactNode }) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '130px 1fr', gap: 1 }}>
      <Box sx={{ color: 'text.secondary' }}>{title}</Box>
      <Box>{children}</Box>
    </Box>
  );
}
