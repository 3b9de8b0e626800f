import { Box } from '@mui/material';
import { Fragment, type ReactNode, useState } from 'react';
import { useIsOwn } from './back-to-book.tsx';
import { type BookEntry, BookList, PANE_SX } from './book-list.tsx';

/** A part of the book whose entries have names: the list at the left, the chosen or a new one as a sheet beside it. */
export function NamedPane<T extends { readonly name: string }>({
  label,
  kind,
  addLabel,
  hint,
  list,
  describe,
  name,
  onChoose,
  sheet,
}: {
  readonly label: string;
  readonly kind: 'value' | 'scale';
  readonly addLabel: string;
  /** Said while there are none. */
  readonly hint: string;
  readonly list: readonly T[];
  readonly describe: (entry: T, at: number) => Pick<BookEntry, 'note' | 'isFaulty'>;
  /** Name of the chosen one. */
  readonly name: string;
  readonly onChoose: (name: string | null) => void;
  /** The sheet of an entry, or of a new one. */
  readonly sheet: (entry: T | null, onKept: (name: string | null) => void) => ReactNode;
}) {
  const isOwn = useIsOwn();
  const [isAdding, setAdding] = useState(false);
  const chosen = isAdding ? null : (list.find((e) => e.name === name) ?? list[0] ?? null);
  const choose = (next: string | null) => {
    setAdding(false);
    onChoose(next);
  };
  return (
    <Box sx={PANE_SX}>
      <BookList
        label={label}
        entries={list.map((e, i) => ({ id: e.name, title: e.name, isOwn: isOwn(kind, e.name), ...describe(e, i) }))}
        chosen={chosen?.name ?? null}
        onChoose={choose}
        addLabel={addLabel}
        onAdd={() => setAdding(true)}
      />
      {chosen || isAdding ? (
        <Fragment key={isAdding || !chosen ? 'new' : `of ${chosen.name}`}>{sheet(chosen, choose)}</Fragment>
      ) : (
        <Box sx={{ color: 'text.secondary', fontSize: 13 }}>{hint}</Box>
      )}
    </Box>
  );
}
