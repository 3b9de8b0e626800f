import { Button } from '@mui/material';
import { useMemo } from 'react';
import { useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';

/** The way back from what a project has in place of its book's; nothing where it has the book's own, or none of it. */
export function BackToBook({
  kind,
  id,
  body,
  size,
}: {
  readonly kind: string;
  readonly id: string;
  readonly body: unknown;
  readonly size?: 'small';
}) {
  const { project, book } = useProjectState('project', 'book');
  const change = useCommit(project.id);
  if (!book?.overrides.includes(`${kind}/${id}`)) return null;
  return (
    <Button
      size={size}
      variant={size ? 'outlined' : 'text'}
      color="inherit"
      title="It stands in place of the book’s"
      disabled={change.isPending}
      onClick={() =>
        change.mutate({ cause: `${id} as in the book ${book.name} again`, diff: { removed: [{ kind, id, body }] } })
      }
    >
      Back to the book’s
    </Button>
  );
}

/** Tells whether a project that stands on a book has an entry of its own, beside or in place of the book's. */
export function useIsOwn(): (kind: string, id: string) => boolean {
  const { book } = useProjectState('book');
  return useMemo(() => {
    const own = new Set(book?.own ?? []);
    return (kind, id) => own.has(`${kind}/${id}`);
  }, [book]);
}
