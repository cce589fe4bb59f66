import { useState, type KeyboardEvent } from "react";
import { svgPoint, useHeld } from "../../ui/useDrag";
import { pulled, type Photo, type Place } from "./photo";

/** So many px from a point it is taken; a finger is as wide. */
const REACH = 22;
const STEP = 0.02;
/** A step along one side of the picture, from its middle at first. */
const along = (from = 0.5, way: number) => Math.min(1, Math.max(0, from + way * STEP));
const ARROWS: Partial<Record<string, Place>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** A photo with its white and its outline on it: a tap says where white is, a point of the outline can be pulled. */
export function PhotoMarks({
  photo,
  tap,
  draw,
}: {
  photo: Photo;
  tap: (place: Place) => void;
  draw: (outline: [number, number][]) => void;
}) {
  const [pulling, setPulling] = useState<[number, number][] | null>(null);
  const [cross, setCross] = useState<Place | null>(null);
  const [held, setHeld] = useState<number | null>(null);
  const outline = pulling ?? photo.measured.outline;
  const { width, height } = photo;
  // Marks are as large on the screen whatever the picture's size.
  const scale = width / 352;
  const drag = useHeld<{ at: number | null; x: number; y: number }>({
    begin: (e) => {
      const p = svgPoint(e);
      const far = outline.map(([x, y]) => Math.hypot(x * width - p.x, y * height - p.y));
      const nearest = far.indexOf(Math.min(...far));
      setCross(null);
      return { at: (far[nearest] ?? Infinity) < REACH * scale ? nearest : null, x: p.x, y: p.y };
    },
    move: (what, _dx, _dy, e) => {
      if (what.at === null) return;
      const p = svgPoint(e);
      setPulling(pulled(photo.measured.outline, what.at, (p.x - what.x) / width, (p.y - what.y) / height));
    },
    end: (what, dx, dy) => {
      if (what.at !== null && pulling && Math.hypot(dx, dy) > 4) draw(pulling);
      else tap([what.x / width, what.y / height]);
      setPulling(null);
    },
    cancel: () => {
      setPulling(null);
    },
  });
  const key = (e: KeyboardEvent) => {
    const way = ARROWS[e.key];
    if (way && held !== null) setPulling(pulled(outline, held, way[0] * STEP, way[1] * STEP));
    else if (way) setCross((was) => [along(was?.[0], way[0]), along(was?.[1], way[1])]);
    else if (e.key.toLowerCase() === "n" && outline.length > 0) setHeld(((held ?? -1) + 1) % outline.length);
    else if (e.key === "Escape") {
      setHeld(null);
      setPulling(null);
    } else if (e.key === "Enter" && held !== null) {
      if (pulling) draw(pulling);
      setPulling(null);
      setHeld(null);
    } else if (e.key === "Enter" && cross) tap(cross);
    else return;
    e.preventDefault();
  };
  const measurable = photo.shows !== "slice";
  return (
    <svg
      viewBox={`0 0 ${String(width)} ${String(height)}`}
      className="block w-full touch-none bg-well"
      role="application"
      aria-label={`photo of the ${photo.shows}: tap white, pull the outline`}
      tabIndex={measurable ? 0 : -1}
      onKeyDown={measurable ? key : undefined}
      {...(measurable ? drag : {})}
    >
      <image href={`/api/photos/${String(photo.id)}/picture`} width={width} height={height} />
      {measurable ? <Marks photo={photo} outline={outline} held={held} cross={cross} scale={scale} /> : null}
    </svg>
  );
}

function Marks({
  photo,
  outline,
  held,
  cross,
  scale,
}: {
  photo: Photo;
  outline: readonly Place[];
  held: number | null;
  cross: Place | null;
  scale: number;
}) {
  const at = ([x, y]: Place) => ({ cx: x * photo.width, cy: y * photo.height });
  const line = outline.map(([x, y]) => `${String(x * photo.width)},${String(y * photo.height)}`).join(" ");
  return (
    <g fill="none" strokeLinejoin="round" pointerEvents="none">
      <polygon points={line} stroke="#ffffff" strokeWidth={4 * scale} />
      <polygon points={line} stroke="#1c656c" strokeWidth={2 * scale} />
      {outline.map((one, i) => (
        <circle
          key={i}
          {...at(one)}
          r={(i === held ? 7 : 3.6) * scale}
          fill={i === held ? "#9f3828" : "#ffffff"}
          stroke="#1c656c"
          strokeWidth={1.6 * scale}
        />
      ))}
      {photo.measured.whites.map((one, i) => (
        <g key={i} data-testid="white">
          <circle {...at(one)} r={9 * scale} stroke="#ffffff" strokeWidth={4 * scale} />
          <circle {...at(one)} r={9 * scale} stroke="#1c2224" strokeWidth={2 * scale} />
        </g>
      ))}
      {cross ? (
        <path
          d={`M${String(cross[0] * photo.width - 12 * scale)} ${String(cross[1] * photo.height)} h${String(24 * scale)} m${String(-12 * scale)} ${String(-12 * scale)} v${String(24 * scale)}`}
          stroke="#9f3828"
          strokeWidth={2.5 * scale}
        />
      ) : null}
    </g>
  );
}
