import { Box, Button } from '@mui/material';

/** A field that two people changed in different ways. */
export interface FieldConflict {
  readonly field: string;
  readonly theirs: unknown;
  readonly mine: unknown;
}

/** What another person did meanwhile to what is being written, and the choice where both did. */
export interface OtherChanges {
  /** Fields that only the other changed: they are in the form already. */
  readonly taken: readonly string[];
  readonly conflicts: readonly FieldConflict[];
  /** One of both is chosen. */
  readonly choose: (conflict: FieldConflict, isTheirs: boolean) => void;
}

/** What another person changed in what is being written here: both texts, and the choice. */
export function OtherChange({
  other: { taken, conflicts, choose },
  words,
  show,
}: {
  readonly other: OtherChanges;
  /** What fields are called. */
  readonly words: Readonly<Record<string, string>>;
  /** A value of a field as a text. */
  readonly show: (field: string, value: unknown) => string;
}) {
  if (taken.length === 0 && conflicts.length === 0) return null;
  const name = (field: string) => words[field] ?? field;
  return (
    <Box
      role="alert"
      sx={{
        bgcolor: 'tally.unpricedSoft',
        borderRadius: 0.5,
        px: 1.5,
        py: 1,
        fontSize: 13,
        display: 'grid',
        gap: 0.75,
      }}
    >
      {taken.length > 0 && (
        <Box>{`Somebody else changed ${taken.map(name).join(', ').toLowerCase()} meanwhile; it is taken in here.`}</Box>
      )}
      {conflicts.map((conflict) => (
        <Box key={conflict.field} sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap' }}>
          <Box sx={{ flex: 1, minWidth: 220 }}>
            <b>{name(conflict.field)}</b> was changed by both. Theirs: {show(conflict.field, conflict.theirs)}. Yours:{' '}
            {show(conflict.field, conflict.mine)}.
          </Box>
          <Button onClick={() => choose(conflict, true)}>Take theirs</Button>
          <Button onClick={() => choose(conflict, false)}>Keep yours</Button>
        </Box>
      ))}
    </Box>
  );
}
