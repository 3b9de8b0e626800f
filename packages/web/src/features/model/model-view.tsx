import { Alert, Box, Button } from '@mui/material';
import { type CompletenessState, type ElementStatesDto, placesOfCount, showQuantity } from '@tally/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { createFinder, type LoadedModel } from '../../store/loaded-models.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { readStates } from '../../store/read-states.ts';
import { useSelection } from '../../store/selection.tsx';
import { useKept } from '../../ui/kept-state.ts';
import { useSchemePalette } from '../../ui/use-scheme.ts';
import {
  type CameraPlace,
  type CutPlane,
  EdgeFinder,
  type ElementLook,
  SceneViewer,
  type ViewBox,
} from '../../viewer/index.ts';
import { allRows, boundRows, listBoxes } from './bound-rows.ts';
import type { CameraLink } from './camera-link.ts';
import { CostLabels } from './cost-labels.tsx';
import { CountedPlaces } from './counted-places.tsx';
import { FacePanel } from './face-panel.tsx';
import { MeasureOverlay } from './measure-overlay.tsx';
import type { ModelColours } from './model-colours.ts';
import { useFacePicking } from './use-face-picking.ts';
import { usePicture } from './use-picture.ts';
import { type Place, type PointerUse, useViewPointer } from './use-view-pointer.ts';

/** A storey plan is cut so far above its level. */
const CUT_M = 1.2;

const NATURAL: ElementLook = { kind: 'natural' };
const HIDDEN: ElementLook = { kind: 'hidden' };
const GHOST: ElementLook = { kind: 'ghost' };

/** Where one stood, and in which revisions. */
interface KeptPlace {
  readonly of: string;
  readonly place: CameraPlace;
}

export interface ModelViewProps {
  readonly models: readonly LoadedModel[];
  readonly states: readonly ElementStatesDto[] | undefined;
  /** Colours by state. */
  readonly isByState?: boolean;
  /** Colours and patterns by ElementKey; what has none is drawn by its edges. */
  readonly colourOf?: ModelColours['colourOf'];
  /** What elements cost is written at them. */
  readonly hasLabels?: boolean;
  /** Elements that are not drawn, by ElementKey. */
  readonly hidden: ReadonlySet<number>;
  /** Grows each time the whole should be fitted into the view. */
  readonly fitRequest: number;
  /** Level that is looked down on, cut above the floor; null for the view in space. */
  readonly planLevelM: number | null;
  /** Plane that the building is cut by; null for none. */
  readonly cut: CutPlane | null;
  /** What clicks are for: selecting, measuring between places, choosing faces. */
  readonly use: PointerUse;
  /** Views that are linked stand where one of them was moved to. */
  readonly link?: CameraLink;
  /** In small beside a page: what is selected is framed at once, and no place is kept. */
  readonly isSmall?: boolean;
}

/** What is seen of what stands around a thing that is shown: as much again on every side, at least so many metres. */
const AROUND_M = 2.5;

function surround(box: ViewBox): ViewBox {
  const reach = Math.max(AROUND_M, 0.35 * Math.max(box[3] - box[0], box[4] - box[1], box[5] - box[2]));
  return box.map((at, k) => (k < 3 ? at - reach : at + reach)) as unknown as ViewBox;
}

function toRgb(colour: string): [number, number, number] {
  return [1, 3, 5].map((i) => Number.parseInt(colour.slice(i, i + 2), 16)) as [number, number, number];
}

/** The building in 3D, tied to the shared selection. */
export function ModelView({
  models,
  states,
  isByState = false,
  colourOf = null,
  hasLabels = false,
  hidden,
  fitRequest,
  planLevelM,
  cut,
  use,
  link,
  isSmall = false,
}: ModelViewProps) {
  const { project } = useProjectState('project');
  const host = useRef<HTMLDivElement>(null);
  const [viewer, setViewer] = useState<SceneViewer | null>(null);
  const { keys, select, frameRequest, figure } = useSelection();
  const palette = useSchemePalette();
  const scheme = palette.tally;

  useEffect(() => {
    const finder = new EdgeFinder();
    const made = new SceneViewer(host.current!, (chunk) => finder.find(chunk));
    setViewer(made);
    return () => {
      made.dispose();
      finder.dispose();
      setViewer(null);
    };
  }, []);
  useEffect(
    () => viewer?.setColours({ background: palette.background.default, edge: palette.text.primary }),
    [viewer, palette.background.default, palette.text.primary],
  );

  const identity = models.map((m) => m.revision.id).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: placed anew only for other revisions
  useEffect(() => {
    isPlaced.current = false;
  }, [viewer, identity]);
  const picture = usePicture(viewer, models, project.id);

  // Where one stood in this building last; else all of it.
  const [kept, keepPlace] = useKept<KeptPlace | null>(`${project.id}/model/camera`, null);
  const isPlaced = useRef(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each scene
  useEffect(() => {
    if (!viewer || isPlaced.current || models.length === 0) return;
    if (kept?.of === identity && !isSmall) viewer.standAt(kept.place);
    else viewer.fit(listBoxes(allRows(models)));
    isPlaced.current = true;
  }, [viewer, identity, models]);
  useEffect(
    () => (isSmall ? undefined : viewer?.onMoved(() => keepPlace({ of: identity, place: viewer.cameraPlace }))),
    [viewer, identity, keepPlace, isSmall],
  );

  useEffect(() => (viewer && link ? link.join(viewer) : undefined), [viewer, link]);

  // What was asked to be shown is not hidden behind the rest, until something else is selected.
  const [shown, setShown] = useState<ReadonlySet<number> | null>(null);
  const isGhosted = shown === keys && keys.size > 0;

  const known = readStates(states);
  useEffect(() => {
    if (!viewer) return;
    const selection: ElementLook = { kind: 'colour', rgb: toRgb(scheme.selection) };
    const looksOfStates: Record<CompletenessState, ElementLook> = {
      unpriced: { kind: 'colour', rgb: toRgb(scheme.unpriced) },
      partly: { kind: 'colour', rgb: toRgb(scheme.partly) },
      priced: { kind: 'colour', rgb: toRgb(scheme.pricedBody) },
      leftOut: GHOST,
    };
    const ownLooks = new Map<object, ElementLook>();
    const ownLook = (key: number): ElementLook => {
      const own = colourOf?.get(key);
      if (own === undefined) return GHOST;
      const look = ownLooks.get(own) ?? { kind: 'colour', rgb: toRgb(own.colour), pattern: own.pattern ?? 'plain' };
      ownLooks.set(own, look);
      return look;
    };
    const looks: [number, ElementLook][] = [];
    for (const { model, row } of allRows(models)) {
      const key = model.table.keys[row]!;
      // Of two states beside each other the colours are what is looked at.
      const base: ElementLook =
        isGhosted && !link
          ? GHOST
          : colourOf
            ? ownLook(key)
            : isByState
              ? looksOfStates[known.get(key)?.state ?? 'unpriced']
              : NATURAL;
      looks.push([model.offset + row, hidden.has(key) ? HIDDEN : keys.has(key) ? selection : base]);
    }
    viewer.setLooks(looks);
  }, [viewer, models, known, isByState, colourOf, hidden, keys, scheme, isGhosted, link]);

  const find = useMemo(() => createFinder(models), [models]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: only when asked
  useEffect(() => {
    const box = boundRows(
      (isSmall || frameRequest > 0) && keys.size > 0 ? [...keys].flatMap((k) => find(k) ?? []) : [],
    );
    if (!viewer || !box) return;
    viewer.fit([surround(box)]);
    setShown(keys);
  }, [viewer, frameRequest, isSmall ? keys : null, isSmall ? find : null]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when asked
  useEffect(() => {
    if (viewer && fitRequest > 0)
      viewer.fit(listBoxes([...allRows(models)].filter(({ model, row }) => !hidden.has(model.table.keys[row]!))));
  }, [viewer, fitRequest]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new level, or another scene
  useEffect(() => {
    if (!viewer) return;
    if (planLevelM === null) return viewer.lookIntoSpace(() => listBoxes(allRows(models)));
    const box = boundRows(allRows(models));
    if (box) viewer.lookDown(box, planLevelM + CUT_M);
  }, [viewer, planLevelM, identity]);

  useEffect(() => {
    if (viewer && planLevelM === null) viewer.setCut(cut);
  }, [viewer, cut, planLevelM]);

  // A figure that is asked about is seen on its shape.
  const [line, setLine] = useState<readonly Place[]>([]);
  const [counted, setCounted] = useState<readonly Place[]>([]);
  useEffect(() => {
    const place = figure && find(figure.key);
    const mesh = viewer && place ? viewer.shapeOf(place.model.offset + place.row) : null;
    const found = figure && mesh ? showQuantity(figure.quantity, mesh) : null;
    setLine(found?.kind === 'line' ? [found.from, found.to] : []);
    setCounted(figure && place ? placesOfCount(place.model.table, place.row, figure.quantity) : []);
    if (!viewer || !isSmall) return;
    viewer.mark(mesh && found?.kind === 'faces' ? [{ mesh, triangles: found.triangles }] : [], scheme.unpriced);
  }, [viewer, figure, find, isSmall, scheme.unpriced]);

  const [faces, pickFace, clearFaces] = useFacePicking(viewer, models, use === 'faces');
  const choose = (elements: readonly number[], isAdding: boolean) => {
    const chosen = elements.flatMap((element) => {
      const model = models.findLast((m) => m.offset <= element);
      const key = model?.table.keys[element - model.offset];
      return key === undefined ? [] : [key];
    });
    select(chosen, isAdding ? 'toggle' : 'replace');
  };
  const pointer = useViewPointer(viewer, use, choose, pickFace);
  return (
    <Box sx={{ position: 'absolute', inset: 0, overflow: 'hidden' }}>
      <Box
        ref={host}
        data-testid="model-view"
        role="group"
        aria-label="Model in 3D"
        {...pointer.handlers}
        sx={{ position: 'absolute', inset: 0, cursor: use === 'select' ? undefined : 'crosshair' }}
      />
      {pointer.rectangle && (
        <Box
          sx={{
            position: 'absolute',
            pointerEvents: 'none',
            border: 1,
            borderStyle: 'dashed',
            borderColor: 'tally.selection',
            ...pointer.rectangle,
          }}
        />
      )}
      {viewer && hasLabels && states && <CostLabels viewer={viewer} models={models} states={states} hidden={hidden} />}
      {viewer && isSmall && counted.length > 0 && <CountedPlaces viewer={viewer} places={counted} />}
      {viewer && isSmall && line.length > 0 && <MeasureOverlay viewer={viewer} places={line} />}
      {viewer && use === 'measure' && <MeasureOverlay viewer={viewer} places={pointer.places} />}
      {picture.problem !== null && (
        <Alert
          severity="warning"
          action={
            <Button color="inherit" size="small" onClick={picture.readAgain}>
              Read again
            </Button>
          }
          sx={{ position: 'absolute', left: 8, right: 8, bottom: 8 }}
        >
          Not all of the building is drawn. {picture.problem}
        </Alert>
      )}
      {use === 'faces' && <FacePanel faces={faces} onDone={clearFaces} />}
    </Box>
  );
}
