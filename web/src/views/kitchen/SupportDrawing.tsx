import { PX } from "./HearthDrawing";
import type { Noun, SupportIn } from "./things";

const FILLS: Record<string, string> = {
  steel: "var(--metal)",
  stone: "var(--stone)",
  firebrick: "#b98a5c",
  upturned_tray: "#7d878b",
  cast_iron: "#2f3436",
  dark_aluminium: "#4d565a",
  bright_aluminium: "#aab4b8",
  blue_steel: "#4c6377",
  thin_tray: "#7d878b",
  perforated: "#5c666a",
};

/** A surface or pan from a little above, with its edge: to scale, walls and holes as it has them. */
export function SupportDrawing({ noun, support }: { noun: Noun; support: SupportIn }) {
  const w = support.width_cm * PX;
  const h = support.depth_cm * PX * 0.62;
  const pan = noun === "pans";
  const wallCm = "wall_cm" in support ? (support.wall_cm ?? 3) : 0;
  const edge = pan ? wallCm * PX * 0.75 : Math.max(1.2, (support.thickness_mm / 10) * PX);
  const fill = FILLS[support.kind] ?? "var(--metal)";
  const told = "is_round" in support ? support.is_round : null;
  const round = told ?? (support.kind === "cast_iron" || /round/i.test(support.name));
  const coated = "coating_limit_c" in support && support.coating_limit_c != null;
  const n = (v: number) => v.toFixed(1);
  if (round)
    return (
      <svg width={w + (pan ? 30 : 2)} height={h + edge + 4} aria-hidden className="block">
        <path
          d={`M0 ${n(h / 2)} v${n(edge)} a${n(w / 2)} ${n(h / 2)} 0 0 0 ${n(w)} 0 v${n(-edge)} Z`}
          fill={pan ? fill : "var(--soot)"}
          opacity={pan ? 0.85 : 0.55}
        />
        <ellipse cx={w / 2} cy={h / 2} rx={w / 2} ry={h / 2} fill={fill} />
        {pan ? (
          <>
            <ellipse
              cx={w / 2}
              cy={h / 2 + edge * 0.35}
              rx={w / 2 - 5}
              ry={h / 2 - 4}
              fill="var(--soot)"
              opacity="0.45"
            />
            <rect x={w - 3} y={h / 2 - 4} width="30" height="8" rx="4" fill={fill} />
          </>
        ) : null}
      </svg>
    );
  const inset = w * 0.06;
  return (
    <svg width={w + 2} height={h + edge + 3} aria-hidden className="block">
      <path d={`M0 ${n(h)} h${n(w)} v${n(edge)} h${n(-w)} Z`} fill="var(--soot)" opacity="0.75" />
      <path d={`M${n(inset)} 0 H${n(w - inset)} L${n(w)} ${n(h)} H0 Z`} fill={fill} />
      {pan ? (
        <path
          d={`M${n(inset + 5)} ${n(Math.min(h * 0.3, edge * 0.6 + 2))} H${n(w - inset - 5)} L${n(w - 7)} ${n(h - 4)} H7 Z`}
          fill="var(--soot)"
          opacity="0.35"
          stroke={coated ? "var(--air)" : "var(--ground)"}
          strokeWidth={coated ? 2 : 1}
        />
      ) : null}
      {support.kind === "upturned_tray" ? (
        <path d={`M${n(inset + 6)} 4 H${n(w - inset - 6)}`} stroke="var(--ground)" opacity="0.6" />
      ) : null}
      {support.kind === "firebrick"
        ? [1 / 3, 2 / 3].map((at) => (
            <line
              key={at}
              x1={inset + (w - 2 * inset) * at}
              x2={w * at}
              y1="0"
              y2={h}
              stroke="var(--soot)"
              opacity="0.4"
            />
          ))
        : null}
      {support.kind === "perforated"
        ? Array.from({ length: 40 }, (_, i) => (
            <ellipse
              key={i}
              cx={w * (0.16 + ((i % 8) * 0.68) / 7)}
              cy={h * (0.26 + (Math.floor(i / 8) * 0.58) / 4)}
              rx="2.2"
              ry="1.4"
              fill="var(--ground)"
            />
          ))
        : null}
    </svg>
  );
}
