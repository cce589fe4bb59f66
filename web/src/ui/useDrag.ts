import { useRef, type PointerEvent } from "react";

export interface DragHandlers {
  onPointerDown: (e: PointerEvent<SVGElement>) => void;
  onPointerMove: (e: PointerEvent<SVGElement>) => void;
  onPointerUp: (e: PointerEvent<SVGElement>) => void;
  onPointerCancel: (e: PointerEvent<SVGElement>) => void;
}

/** Where a pointer is in an SVG's own coordinates. */
export function svgPoint(e: PointerEvent<SVGElement>): { x: number; y: number } {
  const svg = e.currentTarget.ownerSVGElement ?? (e.currentTarget as SVGSVGElement);
  const matrix = svg.getScreenCTM();
  if (!matrix) return { x: 0, y: 0 };
  const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix.inverse());
  return { x: p.x, y: p.y };
}

/** Pointer dragging with capture; `move` gets SVG coordinates, `end` is called once after. */
export function useDrag(move: (x: number, y: number) => void, end?: () => void): DragHandlers {
  const dragging = useRef(false);
  const stop = (e: PointerEvent<SVGElement>) => {
    if (!dragging.current) return;
    dragging.current = false;
    e.currentTarget.releasePointerCapture(e.pointerId);
    end?.();
  };
  return {
    onPointerDown(e) {
      if (e.button !== 0) return;
      dragging.current = true;
      e.currentTarget.setPointerCapture(e.pointerId);
      e.stopPropagation();
    },
    onPointerMove(e) {
      if (!dragging.current) return;
      const p = svgPoint(e);
      move(p.x, p.y);
    },
    onPointerUp: stop,
    onPointerCancel: stop,
  };
}
