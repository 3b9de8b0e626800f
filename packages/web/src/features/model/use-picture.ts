import { decodePictureChunk, type PictureChunk } from '@tally/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { getBytes } from '../../store/client.ts';
import { useIsConnected } from '../../store/connection.ts';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { describeError } from '../../store/use-commit.ts';

/** What draws the pieces of a picture. */
export interface PictureHost {
  /** Makes room for so many elements and forgets what was drawn. */
  reset(elementCount: number): void;
  addChunk(chunk: PictureChunk, offset: number): void;
}

/**
 * Draws the pictures of models piece by piece, each as it becomes ready and once; other revisions begin a new picture. What cannot be read
 * is read again when the server is back, or when it is asked for: a building that lacks a part must not look whole.
 * @returns why a piece is missing, null if none is
 */
export function usePicture(
  host: PictureHost | null,
  models: readonly LoadedModel[],
  projectId: string,
): { readonly problem: string | null; readonly readAgain: () => void } {
  const identity = models.map((m) => m.revision.id).join();
  /** Pieces drawn or under way, and why others could not be read, by revision and number. */
  const pieces = useRef({ taken: new Set<string>(), missing: new Map<string, string>() });
  const [problem, setProblem] = useState<string | null>(null);
  const [tries, setTries] = useState(0);
  const isConnected = useIsConnected();
  // biome-ignore lint/correctness/useExhaustiveDependencies: a fresh picture only for other revisions
  useEffect(() => {
    if (!host) return;
    pieces.current = { taken: new Set(), missing: new Map() };
    setProblem(null);
    host.reset(models.reduce((n, m) => n + m.table.count, 0));
  }, [host, identity]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: read again when asked
  useEffect(() => {
    if (!host) return;
    const end = new AbortController();
    const own = pieces.current;
    const read = async (revisionId: string, n: number, offset: number) => {
      const piece = `${revisionId}/${n}`;
      if (own.taken.has(piece)) return;
      own.taken.add(piece);
      try {
        const chunk = decodePictureChunk(await getBytes(`/projects/${projectId}/revisions/${revisionId}/picture/${n}`));
        if (!chunk.ok) throw new Error(`${chunk.problem.message} ${chunk.problem.remedy ?? ''}`);
        own.missing.delete(piece);
        // Of a picture that was given up meanwhile nothing is drawn.
        if (own === pieces.current) host.addChunk(chunk.value, offset);
      } catch (error) {
        own.taken.delete(piece);
        own.missing.set(piece, describeError(error));
      }
      if (own === pieces.current) setProblem([...own.missing.values()].at(-1) ?? null);
    };
    const readAll = async () => {
      for (const { revision, offset } of models)
        for (let n = 0; n < revision.chunks && !end.signal.aborted; n++) await read(revision.id, n, offset);
    };
    void readAll();
    return () => end.abort();
  }, [host, models, projectId, tries]);
  const readAgain = useCallback(() => setTries((n) => n + 1), []);
  // What is missing while the server is back is read again.
  useEffect(() => {
    if (isConnected && pieces.current.missing.size > 0) readAgain();
  }, [isConnected, readAgain]);
  return { problem, readAgain };
}
