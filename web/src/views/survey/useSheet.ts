import { useElementSize, useMergedRef } from "@mantine/hooks";
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";

import type { Box } from "../../../preview/messages";
import type { Place } from "../../marks/geometry";
import { fit, panned, showing, zoomed } from "./view";

const step = { pan: 60, zoom: 1.25 };

/** A sheet of a size on a stage: moved and enlarged by pointer, wheel and keys. What is chosen holds for the sheet and the room it was chosen in. */
export function useSheet(key: string, page: { width: number; height: number }, show?: Box) {
  const { ref: sized, width, height } = useElementSize<HTMLDivElement>();
  const own = useRef<HTMLDivElement>(null);
  const ref = useMergedRef(sized, own);
  const stage = useMemo(() => ({ width, height }), [width, height]);
  const room = `${key} ${width} ${height}`;
  const [chosen, setChosen] = useState<{ room: string; place: Place }>();
  const place = chosen?.room === room ? chosen.place : fit(page, stage);
  const set = (next: Place) => setChosen({ room, place: next });
  const now = useRef({ place, set, page });
  useEffect(() => {
    now.current = { place, set, page };
  });

  const [shown, setShown] = useState(show);
  if (show !== shown) {
    setShown(show);
    if (show && width > 0) set(showing(place, show, stage));
  }

  // The wheel moves, and with Ctrl, as pinching does, enlarges: React's own listener could not keep the page from scrolling.
  useEffect(() => {
    const e = own.current;
    if (!e) return;
    const wheel = (w: WheelEvent) => {
      w.preventDefault();
      const { place, set, page } = now.current;
      const at = e.getBoundingClientRect();
      if (w.ctrlKey || w.metaKey) set(zoomed(place, Math.exp(-w.deltaY / 300), { x: w.clientX - at.x, y: w.clientY - at.y }));
      else set(panned(place, -(w.shiftKey ? w.deltaY : w.deltaX), w.shiftKey ? 0 : -w.deltaY, page, stage));
    };
    e.addEventListener("wheel", wheel, { passive: false });
    return () => e.removeEventListener("wheel", wheel);
  }, [stage]);

  const center = { x: width / 2, y: height / 2 };
  const larger = () => set(zoomed(place, step.zoom, center));
  const smaller = () => set(zoomed(place, 1 / step.zoom, center));
  const reset = () => setChosen(undefined);
  const keys: Record<string, () => void> = {
    ArrowLeft: () => set(panned(place, step.pan, 0, page, stage)),
    ArrowRight: () => set(panned(place, -step.pan, 0, page, stage)),
    ArrowUp: () => set(panned(place, 0, step.pan, page, stage)),
    ArrowDown: () => set(panned(place, 0, -step.pan, page, stage)),
    "+": larger,
    "=": larger,
    "-": smaller,
    "0": reset,
  };
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented || !keys[e.key]) return;
    e.preventDefault();
    keys[e.key]!();
  };

  const drag = useRef<{ x: number; y: number; place: Place; moved: boolean }>(undefined);
  return {
    ref,
    width,
    height,
    place,
    moving: useMoving(place),
    larger,
    smaller,
    reset,
    onKeyDown,
    /** Where an event is on the sheet. */
    at: (e: PointerEvent) => {
      const r = own.current!.getBoundingClientRect();
      return { x: (e.clientX - r.x - place.x) / place.scale, y: (e.clientY - r.y - place.y) / place.scale };
    },
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      if (e.button !== 0) return;
      drag.current = { x: e.clientX, y: e.clientY, place, moved: false };
    },
    /** Whether the pointer drags the sheet. */
    dragged: (e: PointerEvent<HTMLElement>): boolean => {
      const d = drag.current;
      if (!d) return false;
      const [dx, dy] = [e.clientX - d.x, e.clientY - d.y];
      if (!d.moved && Math.abs(dx) + Math.abs(dy) > 4) {
        d.moved = true;
        try {
          e.currentTarget.setPointerCapture(e.pointerId);
        } catch {
          // a pointer that is gone already cannot be kept
        }
      }
      if (d.moved) set(panned(d.place, dx, dy, page, stage));
      return true;
    },
    /** Ends a drag; whether it was none, but a press. */
    pressed: (): boolean => {
      const d = drag.current;
      drag.current = undefined;
      return d !== undefined && !d.moved;
    },
  };
}

/** Whether something moved a moment ago: what moves is painted once and drawn as it is, so that it keeps up with the pointer. */
function useMoving(place: Place): boolean {
  const key = `${place.x} ${place.y} ${place.scale}`;
  const [still, setStill] = useState(key);
  useEffect(() => {
    const timer = setTimeout(() => setStill(key), 160);
    return () => clearTimeout(timer);
  }, [key]);
  return still !== key;
}
