import { crustColour, type Reference } from "./crust";
import type { CrustForm } from "./sliceShape";

/** A crust as small as a word: base, crumb, sauce, cheese and rim in their predicted colours. */
export function MiniSlice({
  ramp,
  baseL,
  rimL,
  cheeseL,
  dryMm,
  thick,
  form,
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
  form: CrustForm;
  faded: boolean;
  className?: string;
}) {
  const ground = 33;
  const top = ground - thick;
  const dry = Math.max(2, Math.min(thick * 0.5, dryMm * 1.5));
  const rimTop = top - { round: 9, tray: 5, thin: 1.5, pan: 0 }[form];
  const num = (v: number) => v.toFixed(1);
  // Where its topping ends, and the line of its edge: puffed, thin to the end, or straight up a wall.
  const to = { round: 60, tray: 62, thin: 70, pan: 76 }[form];
  const edge =
    form === "pan"
      ? `M${num(to)} ${num(top)} H77 V${num(ground)}`
      : `M${num(to)} ${num(top)} C${num(to + 3)} ${num(top)} ${num(to + 3)} ${num(rimTop)} ${num(Math.max(71, to + 4))} ${num(rimTop)} C80 ${num(rimTop)} 81 ${num(ground - 4)} 78 ${num(ground)}`;
  return (
    <svg viewBox="0 4 82 30" className={`block shrink-0 ${className}`} aria-hidden opacity={faded ? 0.45 : 1}>
      <path d={`M2 ${num(ground)} V${num(top)} L${edge.slice(1)} Z`} fill={crustColour(ramp, 90)} />
      <path d={edge} fill="none" stroke={crustColour(ramp, rimL)} strokeWidth={form === "thin" ? 2 : 3.6} />
      <rect x="2" y={ground - dry} width="76" height={dry} fill={crustColour(ramp, baseL)} />
      <rect x="2" y={top - 2.4} width={to - 2} height="2.4" fill="#b0402c" />
      <rect x="2" y={top - 4.8} width={to - 3} height="2.4" fill={crustColour(ramp, cheeseL)} />
      {form === "pan" || form === "tray" ? (
        <path
          d={
            form === "pan"
              ? `M1 ${num(ground + 0.6)} H79.6 V${num(top - 6)}`
              : `M1 ${num(ground + 0.6)} H79 L81 ${num(ground - 5)}`
          }
          fill="none"
          stroke="var(--ash)"
          strokeWidth="1.4"
        />
      ) : null}
    </svg>
  );
}
