import { type PointerEvent, useEffect, useState } from 'react';
import type { SceneViewer } from '../../viewer/index.ts';

export type Place = readonly [number, number, number];

interface Drag {
  readonly x: number;
  readonly y: number;
  readonly toX: number;
  readonly toY: number;
  /** A rectangle is drawn, which selects what is seen in it. */
  readonly isBox: boolean;
}

/** What clicks on the model are for. */
export type PointerUse = 'select' | 'measure' | 'faces';

const STILL_PX = 4;

/**
 * What the pointer does on the model: a click selects, with Ctrl, ⌘ or Shift it adds; Shift and dragging selects all that is seen in
 * the rectangle; while measuring, clicks mark two places; while choosing faces, each click is handed on.
 */
export function useViewPointer(
  viewer: SceneViewer | null,
  use: PointerUse,
  select: (elements: readonly number[], isAdding: boolean) => void,
  onFace: (x: number, y: number) => void,
) {
  const [drag, setDrag] = useState<Drag | null>(null);
  const [places, setPlaces] = useState<readonly Place[]>([]);
  useEffect(() => {
    if (use !== 'measure') setPlaces([]);
  }, [use]);
  const at = (e: PointerEvent): [number, number] => {
    const rect = viewer!.canvas.getBoundingClientRect();
    return [e.clientX - rect.left, e.clientY - rect.top];
  };
  const handlers = {
    onPointerDown: (e: PointerEvent) => {
      if (!viewer || e.button !== 0) return;
      const [x, y] = at(e);
      const isBox = e.shiftKey && use === 'select';
      if (isBox) viewer.setTurning(false);
      setDrag({ x, y, toX: x, toY: y, isBox });
    },
    onPointerMove: (e: PointerEvent) => {
      if (!drag?.isBox || !viewer) return;
      const [toX, toY] = at(e);
      setDrag({ ...drag, toX, toY });
    },
    onPointerUp: (e: PointerEvent) => {
      if (!viewer || !drag) return;
      setDrag(null);
      viewer.setTurning(true);
      const [x, y] = at(e);
      const isStill = Math.hypot(x - drag.x, y - drag.y) <= STILL_PX;
      if (use === 'faces') {
        if (isStill) onFace(x, y);
      } else if (use === 'measure') {
        const place = isStill ? viewer.placeAt(x, y) : null;
        if (place) setPlaces((known) => (known.length === 1 ? [known[0]!, place] : [place]));
      } else if (isStill) {
        const element = viewer.pick(x, y);
        select(element === null ? [] : [element], e.ctrlKey || e.metaKey || e.shiftKey);
      } else if (drag.isBox) {
        const [left, top] = [Math.min(x, drag.x), Math.min(y, drag.y)];
        select(viewer.pickWithin(left, top, Math.abs(x - drag.x), Math.abs(y - drag.y)), e.ctrlKey || e.metaKey);
      }
    },
  };
  const rectangle = drag?.isBox
    ? {
        left: Math.min(drag.x, drag.toX),
        top: Math.min(drag.y, drag.toY),
        width: Math.abs(drag.toX - drag.x),
        height: Math.abs(drag.toY - drag.y),
      }
    : null;
  return { handlers, rectangle, places };
}
