import type { HearthIn } from "./things";

/** px for a centimetre: the same for everything, so that sizes can be compared at a glance. */
export const PX = 2.2;

/** A hearth from the front, to scale; every kind has its own drawing. */
export function HearthDrawing({ hearth }: { hearth: HearthIn }) {
  if (hearth.kind === "flame_oven") return <FlameOven />;
  if (hearth.kind === "gas_grill") return <GasGrill />;
  if (hearth.kind === "charcoal_grill") return <CharcoalGrill />;
  if (hearth.kind === "hob") return <Hob />;
  return <Oven hearth={hearth} />;
}

function Flame({ x, y, h }: { x: number; y: number; h: number }) {
  const w = h * 0.42;
  return (
    <path
      d={`M${String(x)} ${String(y)} q${String(-w)} ${String(-h * 0.45)} 0 ${String(-h)} q${String(w)} ${String(h * 0.5)} 0 ${String(h)}`}
      fill="var(--brick)"
    />
  );
}

function Oven({ hearth }: { hearth: HearthIn }) {
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
              r="2.4"
              fill="none"
              stroke="var(--soot)"
            />
          ))
        : null}
      {hearth.kind === "gas_oven" ? (
        Array.from({ length: 6 }, (_, i) => (
          <Flame key={i} x={wall + (w * (i + 0.5)) / 6} y={wall + 10 + h} h={10} />
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
          <circle r={small ? 8 : 12} fill="none" stroke="var(--line)" />
          {[0, 120, 240].map((a) => (
            <ellipse
              key={a}
              cy={small ? -4 : -6}
              rx="2.6"
              ry={small ? 3.5 : 5.4}
              fill="var(--line)"
              transform={`rotate(${String(a)})`}
            />
          ))}
        </g>
      ) : null}
    </svg>
  );
}

/** A low dome on feet, its mouth open, the flame at the back. */
function FlameOven() {
  const w = 52 * PX;
  const h = 30 * PX;
  return (
    <svg width={w} height={h + 10} aria-hidden className="block">
      <path
        d={`M2 ${String(h - 6)} V${String(h * 0.5)} Q2 2 ${String(w / 2)} 2 Q${String(w - 2)} 2 ${String(w - 2)} ${String(h * 0.5)} V${String(h - 6)} Z`}
        fill="var(--metal)"
      />
      <path
        d={`M${String(w * 0.14)} ${String(h - 12)} V${String(h * 0.62)} Q${String(w * 0.14)} ${String(h * 0.28)} ${String(w / 2)} ${String(h * 0.28)} Q${String(w * 0.86)} ${String(h * 0.28)} ${String(w * 0.86)} ${String(h * 0.62)} V${String(h - 12)} Z`}
        fill="var(--cavity)"
      />
      {[0.22, 0.29, 0.36].map((at, i) => (
        <Flame key={at} x={w * at} y={h - 12} h={17 - 3 * i} />
      ))}
      <rect x={w * 0.12} y={h - 12} width={w * 0.76} height="6" fill="var(--stone)" />
      {[0.12, 0.82].map((at) => (
        <rect key={at} x={w * at} y={h - 6} width="8" height="14" fill="var(--soot)" />
      ))}
    </svg>
  );
}

/** A hood over a box of burners, knobs before it, on legs. */
function GasGrill() {
  const w = 68 * PX;
  const hood = 24 * PX;
  return (
    <svg width={w} height={hood + 64} aria-hidden className="block">
      <path
        d={`M8 ${String(hood)} Q8 2 34 2 H${String(w - 34)} Q${String(w - 8)} 2 ${String(w - 8)} ${String(hood)} Z`}
        fill="var(--metal)"
      />
      <line
        x1="30"
        x2={w - 30}
        y1={hood - 9}
        y2={hood - 9}
        stroke="var(--ground)"
        strokeWidth="3"
        opacity="0.7"
      />
      <circle cx={w / 2} cy={hood * 0.45} r="6.5" fill="var(--ground)" opacity="0.8" />
      {Array.from({ length: 16 }, (_, i) => (
        <rect key={i} x={12 + (i * (w - 28)) / 15} y={hood + 1} width="3" height="4" fill="var(--soot)" />
      ))}
      <rect
        x="8"
        y={hood + 6}
        width={w - 16}
        height="24"
        fill="var(--cavity)"
        stroke="var(--metal)"
        strokeWidth="2"
      />
      {Array.from({ length: 9 }, (_, i) => (
        <Flame key={i} x={18 + (i * (w - 36)) / 8} y={hood + 24} h={10} />
      ))}
      {[0.25, 0.5, 0.75].map((at) => (
        <circle key={at} cx={w * at} cy={hood + 37} r="4.5" fill="var(--soot)" />
      ))}
      {[18, w - 24].map((at) => (
        <rect key={at} x={at} y={hood + 30} width="5" height="32" fill="var(--metal)" />
      ))}
    </svg>
  );
}

/** A round bowl with its lid, embers below the grate, on three legs. */
function CharcoalGrill() {
  const w = 56 * PX;
  const r = w / 2 - 3;
  const mid = r * 0.78;
  return (
    <svg width={w} height={mid * 2 + 34} aria-hidden className="block">
      <path
        d={`M3 ${String(mid)} A${String(r)} ${String(mid - 2)} 0 0 1 ${String(w - 3)} ${String(mid)} Z`}
        fill="var(--metal)"
      />
      <rect x={w / 2 - 9} y="-1" width="18" height="6" fill="var(--soot)" />
      <line
        x1="3"
        x2={w - 3}
        y1={mid + 2}
        y2={mid + 2}
        stroke="var(--soot)"
        strokeWidth="2.5"
        strokeDasharray="4 2"
      />
      <path
        d={`M3 ${String(mid + 4)} A${String(r)} ${String(mid - 4)} 0 0 0 ${String(w - 3)} ${String(mid + 4)} Z`}
        fill="var(--cavity)"
        stroke="var(--metal)"
        strokeWidth="3"
      />
      {Array.from({ length: 9 }, (_, i) => (
        <circle
          key={i}
          cx={w * 0.22 + (i * w * 0.56) / 8}
          cy={mid + r * 0.42 + (i % 2) * 5}
          r="5"
          fill={i % 3 === 1 ? "var(--brick)" : "var(--soot)"}
        />
      ))}
      {[0.24, 0.73].map((at) => (
        <rect key={at} x={w * at} y={mid * 2 - 6} width="4" height="38" fill="var(--metal)" />
      ))}
    </svg>
  );
}

/** Four rings on a plate, one of them lit. */
function Hob() {
  const w = 58 * PX;
  const h = 32 * PX;
  const rings: readonly (readonly [number, number, number])[] = [
    [0.27, 0.34, 15],
    [0.72, 0.32, 20],
    [0.27, 0.74, 20],
    [0.72, 0.74, 15],
  ];
  return (
    <svg width={w} height={h} aria-hidden className="block">
      <path d={`M10 0 H${String(w - 10)} L${String(w)} ${String(h)} H0 Z`} fill="var(--metal)" />
      {rings.map(([x, y, r], i) => (
        <g key={i}>
          <ellipse
            cx={w * x}
            cy={h * y}
            rx={r}
            ry={r * 0.55}
            fill="none"
            stroke={i === 1 ? "var(--brick)" : "var(--ground)"}
            strokeWidth={i === 1 ? 3 : 1.4}
            opacity={i === 1 ? 1 : 0.7}
          />
          <ellipse
            cx={w * x}
            cy={h * y}
            rx={r * 0.5}
            ry={r * 0.28}
            fill="none"
            stroke="var(--ground)"
            opacity="0.5"
          />
        </g>
      ))}
    </svg>
  );
}
