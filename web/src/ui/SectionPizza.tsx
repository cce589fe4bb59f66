/** A round from the side, to scale: rims left and right, topping between. */
export function SectionPizza({
  cx,
  base,
  cm,
  px,
  rise,
  crust,
  cheese,
}: {
  cx: number;
  base: number;
  cm: number;
  /** px for a centimetre. */
  px: number;
  rise: number;
  crust: string;
  cheese: string;
}) {
  const half = (cm / 2) * px;
  const rim = 9 + 9 * rise;
  const flat = 4 + 3 * rise;
  const n = (v: number) => v.toFixed(1);
  const side = (s: 1 | -1) =>
    `M${n(cx + s * half)} ${n(base)} C${n(cx + s * (half + 5))} ${n(base - rim * 1.25)} ${n(cx + s * (half - 22))} ${n(base - rim * 1.25)} ${n(cx + s * (half - 27))} ${n(base - flat)} L${n(cx + s * (half - 27))} ${n(base)} Z`;
  return (
    <g>
      <rect x={cx - half + 20} y={base - flat} width={2 * half - 40} height={flat} fill={crust} />
      <rect x={cx - half + 25} y={base - flat - 2.6} width={2 * half - 50} height="2.8" fill="#b0402c" />
      <rect x={cx - half + 29} y={base - flat - 5} width={2 * half - 58} height="2.8" fill={cheese} />
      <path d={side(-1)} fill={crust} stroke="var(--soot)" strokeWidth="0.6" />
      <path d={side(1)} fill={crust} stroke="var(--soot)" strokeWidth="0.6" />
    </g>
  );
}

/** Dough that fills its pan from wall to wall, its topping and cheese. */
export function SectionFilling({
  cx,
  base,
  width,
  rise,
  crust,
  cheese,
}: {
  cx: number;
  base: number;
  width: number;
  rise: number;
  crust: string;
  cheese: string;
}) {
  const h = 8 + 9 * rise;
  return (
    <g>
      <rect x={cx - width / 2} y={base - h} width={width} height={h} fill={crust} />
      <rect x={cx - width / 2} y={base - h - 2.5} width={width} height="2.5" fill="#b0402c" />
      <rect x={cx - width / 2} y={base - h - 6} width={width} height="3.5" fill={cheese} />
    </g>
  );
}
