import { Box, Button, LinearProgress, TextField, Typography } from '@mui/material';
import {
  type BookDto,
  type BookVersionDto,
  bringBackDiff,
  type ChangeDto,
  type EntryDiff,
  type PinnedBook,
  type ProjectEffectDto,
} from '@tally/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { getJson, postJson } from '../../store/client.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { projectKey } from '../../store/slices.ts';
import { describeError, useCommit, useProblemNotice } from '../../store/use-commit.ts';
import { usePreview } from '../../store/use-preview.ts';
import { Empty } from '../../ui/empty.tsx';
import { showTime } from '../../ui/format.ts';
import { BookList, PANE_SX, SHEET_SX } from './book-list.tsx';
import { describeBookChange } from './describe-book-change.ts';
import { Effect } from './effect.tsx';
import { OtherProjects } from './other-projects.tsx';
import { useTakeOver } from './use-take-over.ts';

/** The change that lets a project stand on a version of a book. */
function pinDiff(now: PinnedBook | null, to: PinnedBook): Partial<EntryDiff> {
  return now
    ? { updated: [{ kind: 'book', id: 'project', from: now, to }] }
    : { added: [{ kind: 'book', id: 'project', body: to }] };
}

/** Books that projects share: which one this project stands on, its versions and what changed between them. */
export function SharedBookPane() {
  const { book } = useProjectState('book');
  const { data: books, error } = useQuery({
    queryKey: ['books'],
    queryFn: () => getJson<BookDto[]>('/books'),
    meta: { isTold: true },
  });
  const [wanted, setWanted] = useState<string | null>(null);
  const [isSharing, setSharing] = useState(false);
  // Without them nothing is offered that supposes there is none.
  if (!books)
    return error ? (
      <Empty title="The shared books cannot be shown">{describeError(error)}</Empty>
    ) : (
      <LinearProgress sx={{ width: '100%', alignSelf: 'start' }} />
    );
  const chosen = isSharing ? null : (books.find((b) => b.id === (wanted ?? book?.bookId)) ?? books[0] ?? null);
  return (
    <Box sx={PANE_SX}>
      <BookList
        label="Shared books"
        entries={books.map((b) => ({
          id: b.id,
          title: b.name,
          note:
            b.id !== book?.bookId
              ? `Version ${b.version}`
              : b.version === book.version
                ? `This project stands on version ${b.version}, the newest`
                : `This project stands on version ${book.version}; version ${b.version} is newer`,
        }))}
        chosen={chosen?.id ?? null}
        onChoose={(id) => {
          setSharing(false);
          setWanted(id);
        }}
        addLabel="Share as a new book"
        onAdd={() => setSharing(true)}
      />
      {chosen ? <SharedBook key={chosen.id} shared={chosen} /> : <ShareForm onDone={() => setSharing(false)} />}
    </Box>
  );
}

function usePublish(onDone: () => void) {
  const { project } = useProjectState('project');
  const client = useQueryClient();
  const notice = useProblemNotice();
  return useMutation({
    mutationFn: (body: { name?: string; note: string }) =>
      postJson<ChangeDto>(`/projects/${project.id}/book/publish`, body),
    onSuccess: onDone,
    onSettled: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: ['books'] }),
        client.invalidateQueries({ queryKey: projectKey(project.id) }),
      ]),
    onError: notice,
  });
}

function ShareForm({ onDone }: { readonly onDone: () => void }) {
  const basis = useBasis('assemblies', 'items', 'scales', 'values');
  const [name, setName] = useState('');
  const [note, setNote] = useState('');
  const publish = usePublish(onDone);
  return (
    <Box component="section" aria-label="Share as a new book" sx={{ ...SHEET_SX, maxWidth: 640 }}>
      <Box sx={{ fontSize: 13, color: 'text.secondary' }}>
        The {basis.items.length} items, {basis.assemblies.length} assemblies, {basis.values.length} named values and{' '}
        {basis.scales.length} scales of this project become a book that other projects can stand on. What a project
        changes for itself stays its own until it is shared as the next version.
      </Box>
      <TextField label="Name of the book" value={name} onChange={(e) => setName(e.target.value)} />
      <TextField label="Note" value={note} onChange={(e) => setNote(e.target.value)} />
      <Box>
        <Button
          variant="contained"
          disabled={name.trim() === '' || publish.isPending}
          onClick={() => publish.mutate({ name: name.trim(), note })}
        >
          Share the book
        </Button>
      </Box>
    </Box>
  );
}

function SharedBook({ shared }: { readonly shared: BookDto }) {
  const { project, book } = useProjectState('project', 'book');
  const change = useCommit(project.id);
  const { data: versions } = useQuery({
    queryKey: ['books', shared.id, 'versions', shared.version],
    queryFn: () => getJson<BookVersionDto[]>(`/books/${shared.id}/versions`),
  });
  const isPinned = book?.bookId === shared.id;
  const [looked, setLooked] = useState<number | null>(null);
  const number = looked ?? shared.version;
  const version = versions?.find((v) => v.number === number);
  const base = isPinned && number !== book.version ? book.version : number - 1;
  const { data: diff } = useQuery({
    queryKey: ['books', shared.id, 'compare', base, number],
    queryFn: () => getJson<EntryDiff>(`/books/${shared.id}/compare?from=${base}&to=${number}`),
    enabled: base >= 1 && version !== undefined,
  });
  const now: PinnedBook | null = book && { bookId: book.bookId, version: book.version, hash: book.hash };
  const to = version && { bookId: shared.id, version: version.number, hash: version.hash };
  const isOther = to !== undefined && to.hash !== now?.hash;
  const pin = isOther ? pinDiff(now, to) : null;
  const move = usePreview(project.id, pin);
  const { data: effects } = useQuery({
    queryKey: [...projectKey(project.id), 'book-effects', shared.id, number],
    queryFn: () => getJson<ProjectEffectDto[]>(`/projects/${project.id}/book/${shared.id}/effects?version=${number}`),
    enabled: version !== undefined,
    retry: false,
  });
  const [others, setOthers] = useState<ReadonlySet<string>>(new Set());
  const takeOver = useTakeOver();
  const cause = `Stands on the book ${shared.name}, version ${number}`;
  const ticked = effects?.filter((e) => others.has(e.projectId)) ?? [];
  const take = async () => {
    const done = await change.mutateAsync({ cause, diff: pin! }).catch(() => null);
    if (done) await takeOver(ticked, cause);
  };
  return (
    <Box component="section" aria-label="Shared book" sx={SHEET_SX}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {shared.name}, version {number}
        </Typography>
        <Box role="status" aria-label="Effect" sx={{ fontSize: 13 }}>
          {isOther ? <Effect move={move} /> : 'This project stands on it.'}
        </Box>
        {isOther && (
          <Button variant="contained" disabled={!move || change.isPending} onClick={() => void take()}>
            {isPinned ? `Take version ${number} over` : 'Stand on this book'}
          </Button>
        )}
      </Box>
      <Box
        component="ol"
        aria-label="Versions"
        sx={{ listStyle: 'none', m: 0, p: 0, maxHeight: 180, overflow: 'auto' }}
      >
        {(versions ?? []).map((v) => (
          <Box
            component="li"
            key={v.number}
            sx={{
              display: 'flex',
              gap: 2,
              alignItems: 'center',
              fontSize: 13,
              borderBottom: 1,
              borderColor: 'divider',
            }}
          >
            <Button size="small" aria-pressed={v.number === number} onClick={() => setLooked(v.number)}>
              Version {v.number}
            </Button>
            <Box sx={{ flex: 1 }}>{v.note}</Box>
            <Box sx={{ color: 'text.secondary' }}>
              {v.author}, {showTime(v.at)} · {v.hash.slice(0, 8)}
            </Box>
          </Box>
        ))}
      </Box>
      {diff && (
        <BookChanges
          title={base === number - 1 ? `Changed since version ${base}` : `From version ${base} to version ${number}`}
          diff={diff}
        />
      )}
      {effects && effects.length > 0 && (
        <Box>
          <Box sx={{ display: 'flex', alignItems: 'center' }}>
            <Typography variant="h3" sx={{ flex: 1 }}>
              Version {number} in the other projects that stand on this book
            </Typography>
            {!isOther && (
              <Button disabled={ticked.length === 0} onClick={() => void takeOver(ticked, cause)}>
                Take it over there
              </Button>
            )}
          </Box>
          <OtherProjects effects={effects} chosen={others} onChoose={setOthers} />
        </Box>
      )}
      {isPinned && <NextVersion />}
    </Box>
  );
}

function BookChanges({ title, diff }: { readonly title: string; readonly diff: EntryDiff }) {
  const lines = describeBookChange(diff);
  return (
    <Box>
      <Typography variant="h3">{title}</Typography>
      <Box
        component="ul"
        aria-label="Changes of the book"
        sx={{ m: 0, pl: 2, fontSize: 13, maxHeight: 200, overflow: 'auto' }}
      >
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
        {lines.length === 0 && <li>Nothing.</li>}
      </Box>
    </Box>
  );
}

/** What the project has of its own, and the way to share it as the next version. */
function NextVersion() {
  const { book } = useProjectState('book');
  const [note, setNote] = useState('');
  const publish = usePublish(() => setNote(''));
  if (!book) return null;
  const count = book.own.length + book.takenOut.length;
  return (
    <Box sx={{ display: 'grid', gap: 1, borderTop: 1, borderColor: 'divider', pt: 1.5, fontSize: 13 }}>
      <Box>
        {book.own.length === 0
          ? 'This project has nothing of its own beside the book.'
          : `Of this project's own: ${book.own.map((name) => name.slice(name.indexOf('/') + 1)).join(', ')}`}
      </Box>
      <TakenOut />
      {count > 0 && (
        <Box sx={{ display: 'flex', gap: 1 }}>
          <TextField label="What is new" value={note} onChange={(e) => setNote(e.target.value)} sx={{ flex: 1 }} />
          <Button
            variant="contained"
            disabled={publish.isPending || book.newest !== book.version}
            onClick={() => publish.mutate({ note })}
          >
            Share as version {book.newest + 1}
          </Button>
        </Box>
      )}
      {book.newest !== book.version && count > 0 && (
        <Box sx={{ color: 'text.secondary' }}>Take the newest version over first; what is the project's own stays.</Box>
      )}
    </Box>
  );
}

/** What of the book the project does without, and the way back. */
function TakenOut() {
  const { project, book } = useProjectState('project', 'book');
  const change = useCommit(project.id);
  if (!book || book.takenOut.length === 0) return null;
  return (
    <Box component="ul" aria-label="Taken out here" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {book.takenOut.map((name) => {
        const id = name.slice(name.indexOf('/') + 1);
        return (
          <Box component="li" key={name} sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            Taken out here: {id}
            <Button
              size="small"
              onClick={() =>
                change.mutate({ cause: `${id} of the book ${book.name} is back`, diff: bringBackDiff(name) })
              }
            >
              Bring it back
            </Button>
          </Box>
        );
      })}
    </Box>
  );
}
