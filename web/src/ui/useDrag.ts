import { useRef, type KeyboardEvent, type PointerEvent } from "react";

type Pointer = PointerEvent<SVGElement | HTMLElement>;

export interface DragHandlers {
  onPointerDown: (e: Pointer) => void;
  onPointerMove: (e: Pointer) => void;
  onPointerUp: (e: Pointer) => void;
  onPointerCancel: (e: Pointer) => void;
}

interface Held<T> {
  /** What is held from now on; null: nothing is. */
  begin: (e: Pointer) => T | null;
  /** So many px from where it was taken. */
  move: (held: T, dx: number, dy: number, e: Pointer) => void;
  end?: (held: T, dx: number, dy: number) => void;
  cancel?: () => void;
}

/** Dragging with mouse, pen or finger: the pointer stays with what it took, wherever it goes. */
export function useHeld<T>({ begin, move, end, cancel }: Held<T>): DragHandlers {
  const held = useRef<{ what: T; x: number; y: number } | null>(null);
  const drop = () => {
    const was = held.current;
    held.current = null;
    return was;
  };
  return {
    onPointerDown: (e: Pointer) => {
      if (e.button !== 0) return;
      const what = begin(e);
      if (what === null) return;
      e.currentTarget.setPointerCapture(e.pointerId);
      held.current = { what, x: e.clientX, y: e.clientY };
    },
    onPointerMove: (e: Pointer) => {
      const now = held.current;
      if (now) move(now.what, e.clientX - now.x, e.clientY - now.y, e);
    },
    onPointerUp: (e: Pointer) => {
      const was = drop();
      if (was) end?.(was.what, e.clientX - was.x, e.clientY - was.y);
    },
    onPointerCancel: () => {
      if (drop()) cancel?.();
    },
  };
}

/** Where a pointer is in an SVG's own coordinates. */
export function svgPoint(e: Pointer): { x: number; y: number } {
  const here = e.currentTarget as SVGElement;
  const matrix = (here.ownerSVGElement ?? (here as SVGSVGElement)).getScreenCTM();
  if (!matrix) return { x: 0, y: 0 };
  const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix.inverse());
  return { x: p.x, y: p.y };
}

/** The same in a drawing: `move` gets its coordinates, `end` is called once after. */
export function useDrag(move: (x: number, y: number) => void, end?: () => void): DragHandlers {
  return useHeld<true>({
    begin: (e) => {
      e.stopPropagation();
      return true;
    },
    move: (_, _dx, _dy, e) => {
      const p = svgPoint(e);
      move(p.x, p.y);
    },
    end: () => end?.(),
    cancel: () => end?.(),
  });
}

/** What the arrow and page keys mean to a slider: so many small steps; six at once with shift. */
export function keyed(e: KeyboardEvent, step: number, page: number): number {
  const by = { ArrowLeft: -step, ArrowRight: step, PageDown: -page, PageUp: page }[e.key];
  if (!by) return 0;
  e.preventDefault();
  return by * (e.shiftKey ? 6 : 1);
}
