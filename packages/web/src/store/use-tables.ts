import type { ProjectStateDto } from '@tally/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useIsConnected } from './connection.ts';
import { joinModels, type LoadedModels, listCounting, NO_MODELS } from './loaded-models.ts';
import { useParts } from './queries.ts';
import type { SeenTable } from './seen-table.ts';
import { tableKeeper } from './table-keeper.ts';
import type { TablesRequest } from './table-reader.ts';

/** Times that elements are asked for again by themselves, and what lies between, ms. */
const [MOST_TRIES, PAUSE] = [5, 2000];

/** The elements of a project with what it adds to them; none while no project is given. */
export function useTables(state: ProjectStateDto | undefined): LoadedModels {
  const id = state?.project.id ?? null;
  const { layer, sources } = state ?? {};
  const { quantityChoices, quantityOverrides, functionalUnits } = state?.basis.settings ?? {};
  const isMeasured = layer ? layer.limits.length > 0 || Object.keys(layer.chosenFaces).length > 0 : false;
  const { data } = useParts(id ?? '', id !== null && isMeasured);
  const parts = isMeasured ? data : undefined;
  const counting = useMemo(() => listCounting(sources ?? []), [sources]);
  const revisions = counting.map((r) => r.id).join();
  const isNeeded = layer
    ? counting.length > 0 || Object.keys(layer.drawnRooms).length > 0 || Object.keys(layer.allowances).length > 0
    : false;
  const request = useMemo(
    (): TablesRequest | null =>
      id !== null && layer && isNeeded
        ? {
            projectId: id,
            revisions: revisions ? revisions.split(',') : [],
            layer,
            settings: settingsOf({ quantityChoices, quantityOverrides, functionalUnits }),
            parts,
          }
        : null,
    [id, revisions, layer, isNeeded, quantityChoices, quantityOverrides, functionalUnits, parts],
  );
  const [seen, setSeen] = useState<readonly SeenTable[] | Error | null>(null);
  const [tries, setTries] = useState(0);
  const isConnected = useIsConnected();
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again when the server is back, or after a pause
  useEffect(() => {
    if (!request) {
      setSeen(null);
      return;
    }
    let isOld = false;
    let again: ReturnType<typeof setTimeout> | undefined;
    tableKeeper.read(request).then(
      (tables) => !isOld && setSeen(tables),
      (error: Error) => {
        if (isOld) return;
        setSeen((now) => (Array.isArray(now) ? now : error));
        if (tries < MOST_TRIES) again = setTimeout(() => setTries(tries + 1), PAUSE);
      },
    );
    return () => {
      isOld = true;
      clearTimeout(again);
    };
  }, [request, isConnected, tries]);
  useEffect(() => (id === null ? undefined : () => tableKeeper.forget(id)), [id]);
  const last = useRef(NO_MODELS);
  return useMemo(() => {
    const isLoading = request !== null && seen === null;
    if (isLoading || seen instanceof Error) {
      last.current = { ...NO_MODELS, isLoading, error: seen instanceof Error ? seen : null };
    } else last.current = joinModels(last.current, seen ?? [], counting);
    return last.current;
  }, [request, seen, counting]);
}

/** Only what is set: what is sent to a worker is compared field by field. */
function settingsOf(
  settings: {
    [K in keyof TablesRequest['settings']]: TablesRequest['settings'][K] | undefined;
  },
): TablesRequest['settings'] {
  return Object.fromEntries(Object.entries(settings).filter(([, value]) => value !== undefined));
}
