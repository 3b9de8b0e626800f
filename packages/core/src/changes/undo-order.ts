/** What undo needs to know of a change: its number and, if it took another back, that one's. */
export interface UndoRecord {
  readonly seq: number;
  readonly undoes: number | null;
}

/** Numbers of changes that have been taken back and not put in force again. @param changes newest first */
export function listTakenBack(changes: readonly UndoRecord[]): Set<number> {
  const takenBack = new Set<number>();
  for (const { seq, undoes } of changes) if (undoes !== null && !takenBack.has(seq)) takenBack.add(undoes);
  return takenBack;
}

/** The change that undo takes back next: the newest one in force that is no undo itself. @param changes newest first */
export function findUndoable<T extends UndoRecord>(changes: readonly T[]): T | null {
  const takenBack = listTakenBack(changes);
  return changes.find((c) => c.undoes === null && !takenBack.has(c.seq)) ?? null;
}

/** The undo that redo takes back next; null as soon as something new was done after it. @param changes newest first */
export function findRedoable<T extends UndoRecord>(changes: readonly T[]): T | null {
  const takenBack = listTakenBack(changes);
  const bySeq = new Map(changes.map((c) => [c.seq, c]));
  for (const change of changes) {
    if (takenBack.has(change.seq)) continue;
    if (change.undoes === null) return null;
    // A redo is in force: look further back for an older undo.
    if (bySeq.get(change.undoes)?.undoes === null) return change;
  }
  return null;
}
