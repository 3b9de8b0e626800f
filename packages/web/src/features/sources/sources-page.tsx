import { Box, Button, LinearProgress, MenuItem, Select, Typography } from '@mui/material';
import { bundleFindings, type JobDto, type RevisionDto, sayInWords } from '@tally/core';
import { type DragEvent, useRef, useState } from 'react';
import { Link } from 'react-router';
import { ApiProblem, postJson, uploadFile } from '../../store/client.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useRevisionFindings } from '../../store/queries.ts';
import { useProblemNotice } from '../../store/use-commit.ts';
import { useShowElements } from '../../store/use-show-elements.ts';
import { FINDING_WORDS } from '../../ui/finding-words.ts';
import { showTime } from '../../ui/format.ts';
import { useKept } from '../../ui/kept-state.ts';
import { BringList } from './bring-list.tsx';
import { DropFolder } from './drop-folder.tsx';

const BY_NAME = '';
const REVISION_WORDS: Record<RevisionDto['state'], string> = {
  counting: 'Counts',
  waiting: 'Waits for your yes',
  kept: 'Kept',
  rejected: 'Rejected',
};

const NONE: readonly string[] = [];
/** Failed imports that were read and put away are remembered, the newest. */
const MOST_PUT_AWAY = 200;
/** Imports that are shown one by one. */
const MOST_IMPORTS = 12;

interface Upload {
  /** Tells it from another file of the same name. */
  readonly id: number;
  readonly name: string;
  readonly share: number;
  readonly stop: () => void;
  readonly problem: string | null;
}

/** Where elements come from: bring a model, watch it being read, decide about revisions, see what the checks found. */
export function SourcesPage() {
  const { project, sources, jobs, summary, manifest } = useProjectState(
    'project',
    'sources',
    'jobs',
    'summary',
    'manifest',
  );
  const basis = useBasis('rules');
  const models = sources.filter((s) => s.kind === 'model');
  const input = useRef<HTMLInputElement>(null);
  const [isOver, setOver] = useState(false);
  const [sourceId, setSourceId] = useState(BY_NAME);
  const [uploads, setUploads] = useState<readonly Upload[]>([]);
  const uploadCount = useRef(0);
  const [putAway, keepPutAway] = useKept('imports-put-away', NONE);
  const notice = useProblemNotice();

  const bring = (files: Iterable<File>) => {
    for (const file of files) {
      const end = new AbortController();
      const id = ++uploadCount.current;
      const patch = (change: Partial<Upload> | null) =>
        setUploads((list) =>
          change === null ? list.filter((u) => u.id !== id) : list.map((u) => (u.id === id ? { ...u, ...change } : u)),
        );
      // What failed before under this name is tried again with it.
      setUploads((list) => [
        ...list.filter((u) => u.name !== file.name || u.problem === null),
        { id, name: file.name, share: 0, stop: () => end.abort(), problem: null },
      ]);
      uploadFile<JobDto>(
        `/projects/${project.id}/uploads`,
        file,
        { sourceId },
        (share) => patch({ share }),
        end.signal,
      ).then(
        () => patch(null),
        (error: unknown) =>
          patch({
            problem:
              error instanceof ApiProblem ? `${error.problem.detail} ${error.problem.remedy ?? ''}` : String(error),
          }),
      );
    }
  };
  const drop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    bring(e.dataTransfer.files);
  };
  const post = (path: string, body: unknown = {}) => postJson(`/projects/${project.id}${path}`, body).catch(notice);
  const open = jobs.filter((j) => j.state !== 'done' && !putAway.includes(j.id));
  return (
    <Box sx={{ flex: 1, overflow: 'auto', p: 2, display: 'grid', gap: 2, alignContent: 'start', maxWidth: 1100 }}>
      <Box
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
        data-testid="drop-zone"
        sx={{
          border: '1px dashed',
          borderColor: isOver ? 'primary.main' : 'text.secondary',
          bgcolor: isOver ? 'tally.petrolSoft' : 'background.paper',
          borderRadius: 1,
          px: 2,
          py: 2,
          display: 'flex',
          alignItems: 'center',
          gap: 2,
          flexWrap: 'wrap',
        }}
      >
        <Box sx={{ flex: 1, minWidth: 240 }}>
          <Typography variant="h2">Bring a model</Typography>
          <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
            Drop an IFC file here (IFC2X3, IFC4, IFC4X3), or choose one.
          </Box>
          <DropFolder />
        </Box>
        {models.length > 0 && (
          <Select
            value={sourceId}
            displayEmpty
            onChange={(e) => setSourceId(e.target.value)}
            inputProps={{ 'aria-label': 'Belongs to' }}
            sx={{ fontSize: 13 }}
          >
            <MenuItem value={BY_NAME}>Source by its file name</MenuItem>
            {models.map((s) => (
              <MenuItem key={s.id} value={s.id}>
                Next revision of {s.name}
              </MenuItem>
            ))}
          </Select>
        )}
        <input
          ref={input}
          type="file"
          accept=".ifc"
          multiple
          hidden
          data-testid="file-input"
          onChange={(e) => {
            bring([...(e.target.files ?? [])]);
            e.target.value = '';
          }}
        />
        <Button variant="contained" onClick={() => input.current?.click()}>
          Choose a file
        </Button>
      </Box>
      <BringList />
      {basis.rules.length === 0 && (
        <Box
          sx={{
            display: 'flex',
            gap: 2,
            alignItems: 'center',
            bgcolor: 'tally.unpricedSoft',
            borderRadius: 1,
            px: 2,
            py: 1,
          }}
        >
          <Box sx={{ flex: 1, fontSize: 13 }}>
            This project has no rules yet
            {summary.counts.unpriced > 0 ? `: ${summary.counts.unpriced} elements are not priced` : ''}.
          </Box>
          <Button onClick={() => void post('/template', { starter: true })}>Apply the rough starter</Button>
          <Button onClick={() => void post('/template', { demo: true })}>Apply the Heron Wharf template</Button>
        </Box>
      )}
      {uploads.map((u) => (
        <Progress
          key={u.id}
          title={u.name}
          stage={u.problem ? '' : 'Sending'}
          share={u.share}
          problem={u.problem}
          onStop={u.problem ? () => setUploads((l) => l.filter((x) => x.id !== u.id)) : u.stop}
          stopWord={u.problem ? 'Close' : 'Stop'}
        />
      ))}
      {open.slice(0, MOST_IMPORTS).map((j) => (
        <Progress
          key={j.id}
          title={j.fileName}
          stage={j.state === 'failed' || j.state === 'stopped' ? '' : j.stage}
          share={j.share}
          problem={j.problem ? `${j.problem.message} ${j.problem.remedy ?? ''}` : null}
          onStop={() =>
            j.state === 'running' || j.state === 'queued'
              ? void post(`/jobs/${j.id}/stop`)
              : keepPutAway([...putAway, j.id].slice(-MOST_PUT_AWAY))
          }
          stopWord={j.state === 'running' || j.state === 'queued' ? 'Stop' : 'Put away'}
          onStart={j.state === 'failed' || j.state === 'stopped' ? () => void post(`/jobs/${j.id}/start`) : undefined}
        />
      ))}
      {open.length > MOST_IMPORTS && (
        <Box sx={{ fontSize: 13, color: 'text.secondary' }}>
          and {open.length - MOST_IMPORTS} more imports that wait, run or failed
        </Box>
      )}
      {sources.map((s) => (
        <Box key={s.id} sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}>
          <Typography variant="h2" sx={{ px: 2, py: 1 }}>
            {s.name}
            {s.kind === 'list' && (
              <Box component="span" sx={{ ml: 1, fontSize: 13, fontWeight: 400, color: 'text.secondary' }}>
                list
              </Box>
            )}
          </Typography>
          {s.revisions.map((r) => (
            <Revision
              key={r.id}
              revision={r}
              counting={s.revisions.find((other) => other.state === 'counting') ?? null}
              onDecide={(decision) => void post(`/revisions/${r.id}/${decision}`)}
            />
          ))}
        </Box>
      ))}
      {manifest.sources.length > 0 && (
        <Box sx={{ fontSize: 12, color: 'text.secondary' }} data-testid="manifest">
          The plan stands on: book {manifest.bookHash.slice(0, 8)}, rules {manifest.rulesHash.slice(0, 8)}, additions{' '}
          {manifest.additionsHash.slice(0, 8)},{' '}
          {manifest.sources.map((s) => `elements ${s.tableHash.slice(0, 8)} (reader ${s.readerVersion})`).join(', ')},
          engine {manifest.engineVersion}. Equal marks give equal figures.
        </Box>
      )}
    </Box>
  );
}

function Progress({
  title,
  stage,
  share,
  problem,
  onStop,
  stopWord,
  onStart,
}: {
  readonly title: string;
  readonly stage: string;
  readonly share: number;
  readonly problem: string | null;
  readonly onStop?: () => void;
  readonly stopWord: string;
  /** Begins it again; none while it is under way. */
  readonly onStart?: () => void;
}) {
  return (
    <Box
      role="status"
      sx={{
        bgcolor: 'background.paper',
        border: 1,
        borderColor: problem ? 'error.main' : 'divider',
        borderRadius: 1,
        px: 2,
        py: 1,
        display: 'grid',
        gridTemplateColumns: '1fr auto',
        gap: 1,
        alignItems: 'center',
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ fontWeight: 600, overflow: 'hidden', textOverflow: 'ellipsis' }}>{title}</Box>
        {problem ? (
          <Box sx={{ color: 'error.main', fontSize: 13 }}>{problem}</Box>
        ) : (
          <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
            {stage}, {Math.round(share * 100)} %
          </Box>
        )}
      </Box>
      <Box>
        {onStart && <Button onClick={onStart}>Start again</Button>}
        {onStop && (
          <Button color="inherit" onClick={onStop}>
            {stopWord}
          </Button>
        )}
      </Box>
      {!problem && (
        <LinearProgress
          aria-label={`${title}: ${stage}`}
          variant="determinate"
          value={share * 100}
          sx={{ gridColumn: '1 / -1' }}
        />
      )}
    </Box>
  );
}

function Revision({
  revision: r,
  counting,
  onDecide,
}: {
  readonly revision: RevisionDto;
  /** The revision of its source that counts. */
  readonly counting: RevisionDto | null;
  readonly onDecide: (decision: 'count' | 'reject' | 'draw') => void;
}) {
  const { project } = useProjectState('project');
  const [isOpen, setOpen] = useState(r.state === 'counting');
  const lines = r.findingLines;
  const isOlder = r.fileTime !== null && counting?.fileTime != null && r.fileTime < counting.fileTime;
  const picture =
    r.geometryState === 'done' ? '' : r.geometryState === 'failed' ? ', picture incomplete' : ', picture under way';
  return (
    <Box
      sx={{
        borderTop: 1,
        borderColor: 'divider',
        px: 2,
        py: 1,
        bgcolor: r.state === 'waiting' ? 'tally.unpricedSoft' : undefined,
      }}
    >
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', fontSize: 13 }}>
        <Box sx={{ fontWeight: 650, width: 28 }}>{r.number}</Box>
        <Box sx={{ flex: 1, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
          {r.fileName}
        </Box>
        <Box sx={{ color: 'text.secondary' }}>
          {r.schema === 'List'
            ? `${r.elements} lines`
            : `${r.schema}, ${r.lengthUnit}, ${r.elements} elements${picture}`}
        </Box>
        <Box sx={{ color: 'text.secondary' }}>{showTime(r.createdAt)}</Box>
        <Box sx={{ fontWeight: r.state === 'counting' ? 650 : 400, minWidth: 110 }}>{REVISION_WORDS[r.state]}</Box>
        {r.geometryState === 'failed' && <Button onClick={() => onDecide('draw')}>Draw it again</Button>}
        {r.state !== 'counting' && (
          <Button
            color="inherit"
            component={Link}
            to={`/projects/${project.id}/changes?from=live&to=revision:${r.id}`}
            title="Before it counts: what it would move, by cause, group and element"
          >
            What it would move
          </Button>
        )}
        {r.state !== 'counting' && <Button onClick={() => onDecide('count')}>Let it count</Button>}
        {r.state === 'waiting' && (
          <Button color="inherit" onClick={() => onDecide('reject')}>
            Reject
          </Button>
        )}
        <Button
          color="inherit"
          aria-expanded={isOpen}
          disabled={lines === 0}
          onClick={() => setOpen(!isOpen)}
          sx={{ minWidth: 96 }}
        >
          {lines} {lines === 1 ? 'finding' : 'findings'}
        </Button>
      </Box>
      {r.state === 'waiting' && (
        <Box sx={{ fontSize: 13, mt: 0.5 }}>
          {isOlder
            ? `It was written ${showTime(r.fileTime!)}, before the one that counts.`
            : `Only ${r.matched} of its ${r.elements} ${r.schema === 'List' ? 'lines' : 'elements'} are known from the revision before.`}{' '}
          If it is the right file, let it count.
        </Box>
      )}
      {isOpen && <Findings revision={r} />}
    </Box>
  );
}

function Findings({ revision }: { readonly revision: RevisionDto }) {
  const show = useShowElements(revision.id);
  const { project } = useProjectState('project');
  const { data } = useRevisionFindings(project.id, revision.id, revision.findingLines > 0);
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, mt: 1, p: 0, display: 'grid', gap: 0.5 }}>
      {bundleFindings(data ?? [])
        .map(({ findings: [f, ...more] }) => ({ f: f!, more }))
        .map(({ f, more }) => (
          <Box
            component="li"
            key={`${f.code}${f.message}`}
            sx={{
              display: 'grid',
              gridTemplateColumns: '150px 1fr auto',
              gap: 1,
              alignItems: 'baseline',
              fontSize: 13,
            }}
          >
            <Box
              sx={{
                color: f.severity === 'error' ? 'error.main' : 'text.secondary',
                fontWeight: f.severity === 'error' ? 650 : 400,
              }}
            >
              {FINDING_WORDS[f.code]}
            </Box>
            <Box>
              {sayInWords(f.message)}
              {more.length > 0 && <b> and {more.length} more like it</b>}
            </Box>
            {show && f.globalIds.length > 0 && (
              <Button onClick={() => show([f, ...more].flatMap((m) => m.globalIds))}>Show</Button>
            )}
          </Box>
        ))}
    </Box>
  );
}
