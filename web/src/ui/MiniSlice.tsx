import { crustColour, type Reference } from "./crust";

/** A crust as small as a word: base, crumb, sauce, cheese and rim in their predicted colours. */
export function MiniSlice({
  ramp,
  baseL,
  rimL,
  cheeseL,
  dryMm,
  thick,
  walled,
  faded,
  className = "h-[19px] w-[51px]",
}: {
  ramp: Reference["ramp"];
  baseL: number;
  rimL: number;
  cheeseL: number;
  dryMm: number;
  /** Height of the crumb, px. */
  thick: number;
  walled: boolean;
  faded: boolean;
  className?: string;
}) {
  const ground = 33;
  const top = ground - thick;
  const dry = Math.max(2, Math.min(thick * 0.5, dryMm * 1.5));
  const rimTop = walled ? top - 4 : top - 9;
  const body = `M2 ${String(ground)} V${String(top)} H60 C63 ${String(top)} 63 ${String(rimTop)} 71 ${String(rimTop)} C80 ${String(rimTop)} 81 ${String(ground - 4)} 78 ${String(ground)} Z`;
  return (
    <svg viewBox="0 4 82 30" className={`block shrink-0 ${className}`} aria-hidden opacity={faded ? 0.45 : 1}>
      <path d={body} fill={crustColour(ramp, 90)} />
      <path
        d={`M60 ${String(top)} C63 ${String(top)} 63 ${String(rimTop)} 71 ${String(rimTop)} C80 ${String(rimTop)} 81 ${String(ground - 4)} 78 ${String(ground)}`}
        fill="none"
        stroke={crustColour(ramp, rimL)}
        strokeWidth="3.6"
      />
      <rect x="2" y={ground - dry} width="76" height={dry} fill={crustColour(ramp, baseL)} />
      <rect x="2" y={top - 2.4} width="58" height="2.4" fill="#b0402c" />
      <rect x="2" y={top - 4.8} width="57" height="2.4" fill={crustColour(ramp, cheeseL)} />
    </svg>
  );
}
