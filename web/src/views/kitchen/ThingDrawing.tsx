import type { HearthIn, Noun, SupportIn, Values } from "./things";

/** px for a centimetre: the same for everything, so that sizes can be compared at a glance. */
const PX = 2.5;

/** A thing of the kitchen drawn to scale: a hearth from the front, a surface or pan from above and from its edge. */
export function ThingDrawing({ noun, values }: { noun: Noun; values: Values }) {
  return noun === "hearths" ? (
    <HearthDrawing hearth={values as HearthIn} />
  ) : (
    <SupportDrawing noun={noun} support={values as SupportIn} />
  );
}

function HearthDrawing({ hearth }: { hearth: HearthIn }) {
  const small = hearth.kind === "countertop_oven";
  const w = (small ? 36 : 46) * PX;
  const h = (small ? 20 : 34) * PX;
  const wall = 7 * PX * 0.6;
  const levels = hearth.levels ?? 5;
  const glow = hearth.top_element_usable !== false && (hearth.top_element_kw ?? 0) > 0;
  return (
    <svg width={w + 2 * wall} height={h + 2 * wall + 12} aria-hidden className="block">
      <rect x="0" y="0" width={w + 2 * wall} height={h + 2 * wall + 10} fill="var(--metal)" />
      <rect x={wall} y={wall + 10} width={w} height={h} fill="var(--cavity)" />
      <rect x={wall} y="5" width={w * 0.55} height="3" fill="var(--ground)" opacity="0.7" />
      <circle cx={wall + w - 8} cy="7" r="3.4" fill="var(--ground)" opacity="0.8" />
      {Array.from({ length: levels }, (_, i) => {
        const y = wall + 10 + h * (0.86 - (i * 0.66) / Math.max(1, levels - 1));
        return (
          <line key={i} x1={wall} x2={wall + w} y1={y} y2={y} stroke="var(--line)" strokeDasharray="3 3" />
        );
      })}
      {glow
        ? Array.from({ length: 7 }, (_, i) => (
            <circle
              key={i}
              cx={wall + (w * (i + 0.5)) / 7}
              cy={wall + 15}
              r="2.6"
              fill="none"
              stroke="var(--soot)"
            />
          ))
        : null}
      {hearth.kind === "gas_oven" ? (
        Array.from({ length: 6 }, (_, i) => (
          <path
            key={i}
            d={`M${String(wall + (w * (i + 0.5)) / 6)} ${String(wall + 10 + h)} q-4 -6 0 -10 q4 4 0 10`}
            fill="var(--air)"
          />
        ))
      ) : (
        <line
          x1={wall + 8}
          x2={wall + w - 8}
          y1={wall + 10 + h - 3}
          y2={wall + 10 + h - 3}
          stroke="var(--soot)"
          strokeWidth="2"
          strokeDasharray="6 8"
        />
      )}
      {hearth.has_fan ? (
        <g transform={`translate(${String(wall + w / 2)} ${String(wall + 10 + h / 2)})`}>
          <circle r={small ? 9 : 14} fill="none" stroke="var(--line)" />
          {[0, 120, 240].map((a) => (
            <ellipse
              key={a}
              cx="0"
              cy={small ? -4.5 : -7}
              rx="3"
              ry={small ? 4 : 6}
              fill="var(--line)"
              transform={`rotate(${String(a)})`}
            />
          ))}
        </g>
      ) : null}
    </svg>
  );
}

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
};

function SupportDrawing({ noun, support }: { noun: Noun; support: SupportIn }) {
  const w = support.width_cm * PX;
  const h = support.depth_cm * PX * 0.62; // seen from a little above
  const edge = Math.max(1.2, (support.thickness_mm / 10) * PX);
  const fill = FILLS[support.kind] ?? "var(--metal)";
  const round = support.kind === "cast_iron" || /round/i.test(support.name);
  const pan = noun === "pans";
  const wall = support.kind === "thin_tray" ? 1.5 * PX : 4 * PX;
  return (
    <svg width={w + 30} height={h + edge + 8} aria-hidden className="block">
      {round ? (
        <>
          <ellipse cx={w / 2} cy={h / 2 + edge} rx={w / 2} ry={h / 2} fill="var(--soot)" opacity="0.35" />
          <ellipse cx={w / 2} cy={h / 2} rx={w / 2} ry={h / 2} fill={fill} />
          {pan ? (
            <>
              <ellipse
                cx={w / 2}
                cy={h / 2 + 2}
                rx={w / 2 - 5}
                ry={h / 2 - 4}
                fill="none"
                stroke="var(--ground)"
                opacity="0.5"
              />
              <rect x={w - 3} y={h / 2 - 4} width="30" height="8" rx="4" fill={fill} />
            </>
          ) : null}
        </>
      ) : (
        <>
          <path
            d={`M0 ${String(h)} h${String(w)} v${String(edge)} h${String(-w)} Z`}
            fill="var(--soot)"
            opacity="0.75"
          />
          <path
            d={`M${String(w * 0.06)} 0 H${String(w * 0.94)} L${String(w)} ${String(h)} H0 Z`}
            fill={fill}
          />
          {pan ? (
            <path
              d={`M${String(w * 0.06 + wall * 0.6)} ${String(wall * 0.5)} H${String(w * 0.94 - wall * 0.6)} L${String(w - wall)} ${String(h - wall * 0.6)} H${String(wall)} Z`}
              fill="none"
              stroke="var(--ground)"
              opacity="0.55"
            />
          ) : null}
        </>
      )}
    </svg>
  );
}
