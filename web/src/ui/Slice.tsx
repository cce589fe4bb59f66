import { Hatch } from "./Hatch";
import { crustColour, crustWord, type Reference } from "./crust";
import { sliceShape, type CrustForm } from "./sliceShape";
import { useUnits } from "./units";

export interface CrustNow {
  baseL: number;
  rimL: number;
  cheeseL: number;
  coreC: number;
  lossPct: number;
  dryMm: number;
  spotPct: number;
  /** Against the wall of a pan; null where there is none. */
  edgeL: number | null;
  /** How base and crumb bite, in words. */
  bite: string;
  crumb: string;
  /** How far the dough has risen in the oven, 0 to 1. */
  rise: number;
  loadingGcm2: number;
  form: CrustForm;
  /** Seen from below: with corners, or a disc. */
  square: boolean;
  /** Height of the pan's wall, mm; 0 where there is none. */
  wallMm: number;
}

/** The share of baked-on colour that makes contact spots stand out. */
function spread(l: number): number {
  return Math.min(1, Math.max(0, (84 - l) / 25)) * 6.5;
}

// Fixed spots, so that the underside does not flicker: x, y in a unit disc, radius, depth in sigma.
const SPOTS = (() => {
  let seed = 7;
  const random = () => {
    seed = (seed * 16807) % 2147483647;
    return seed / 2147483647;
  };
  return Array.from({ length: 90 }, () => {
    const r = Math.sqrt(random()) * 0.93;
    const a = random() * 2 * Math.PI;
    const size = 0.018 + 0.07 * random() ** 2;
    return { x: r * Math.cos(a), y: r * Math.sin(a), size, z: (random() + random() + random() - 1.5) * 2.4 };
  });
})();

/** Bubbles of a puffed rim: x, share of its height, and both radii; and those of the crumb, x. */
const PUFFS = [
  [238, 0.5, 7, 9],
  [256, 0.3, 9, 8],
  [266, 0.66, 6, 9],
  [246, 0.76, 8, 5],
  [228, 0.82, 4, 3],
];
const HOLES = [20, 44, 61, 88, 113, 131, 160, 187];

/** Cross-section of the crust from the middle to its edge, at one moment: shaped as its style is. */
export function SliceSection({ crust, reference }: { crust: CrustNow; reference: Reference }) {
  const ramp = reference.ramp;
  const mm = 4.4;
  const crumb = (crust.loadingGcm2 * 10 * 0.77 * (1 + 0.9 * crust.rise)) / 1.1;
  const flat = Math.max(9, crumb * mm);
  const dry = Math.min(flat * 0.6, crust.dryMm * mm * 0.8);
  const ground = 116;
  // A wall that is higher than the drawing ends with it.
  const shape = sliceShape(crust.form, ground, flat, crust.rise, Math.min(86, crust.wallMm * mm * 0.45));
  const { outline, toppedTo } = shape;
  const rimTop = shape.top;
  const base = crustColour(ramp, crust.baseL);
  const rim = crustColour(ramp, crust.rimL);
  const inner = crustColour(ramp, crust.coreC > 70 ? 90 : 86);
  const n = (v: number) => v.toFixed(1);
  const y = ground - flat;
  return (
    <svg
      viewBox="0 26 300 94"
      className="w-full"
      role="img"
      aria-label={`Slice: base ${crustWord(reference.words, crust.baseL)}, rim ${crustWord(reference.words, crust.rimL)}, cheese ${crustWord(reference.cheese_words, crust.cheeseL)}.`}
    >
      <defs>
        <clipPath id="slice-body">
          <path d={outline} />
        </clipPath>
      </defs>
      <g clipPath="url(#slice-body)">
        <rect x="0" y="0" width="300" height="124" fill={inner} />
        {(crust.form === "round" ? PUFFS : []).map(([bx = 0, f = 0, rx = 0, ry = 0], i) => (
          <ellipse
            key={i}
            cx={bx}
            cy={rimTop + (ground - rimTop) * f}
            rx={rx * (0.35 + 0.65 * crust.rise)}
            ry={ry * (0.35 + 0.65 * crust.rise)}
            fill={crustColour(ramp, 96)}
          />
        ))}
        {(crust.form === "round" ? HOLES : [...HOLES, 214, 240, 262]).map((bx, i) => (
          <ellipse
            key={bx}
            cx={bx}
            cy={ground - dry - (flat - dry) * (0.35 + 0.1 * (i % 4))}
            rx={(3 + (i % 3) * 2) * (0.4 + crust.rise)}
            ry={(1 + (i % 2)) * (0.4 + crust.rise)}
            fill={crustColour(ramp, 97)}
          />
        ))}
        <rect x="0" y={ground - Math.max(1.6, dry)} width="300" height={Math.max(1.6, dry)} fill={base} />
        <path
          d={shape.rim}
          fill="none"
          stroke={rim}
          strokeWidth={3 + Math.min(9, ((84 - crust.rimL) / 30) * 8)}
        />
      </g>
      <path
        d={`M8 ${n(y)} L${n(toppedTo)} ${n(y)} L${n(toppedTo - 3)} ${n(y - 6)} L8 ${n(y - 6)} Z`}
        fill="#b0402c"
      />
      <path
        d={`M8 ${n(y - 6)} L${n(toppedTo - 8)} ${n(y - 6)} C${n(toppedTo - 18)} ${n(y - 15)} ${n(toppedTo - 36)} ${n(y - 9)} ${n(toppedTo - 56)} ${n(y - 12)} C120 ${n(y - 17)} 96 ${n(y - 9)} 70 ${n(y - 13)} C46 ${n(y - 16)} 28 ${n(y - 9)} 8 ${n(y - 12)} Z`}
        fill={crustColour(ramp, crust.cheeseL + 3)}
      />
      {shape.edge ? (
        <path
          d={shape.edge}
          fill="none"
          stroke={crustColour(ramp, crust.edgeL ?? crust.baseL)}
          strokeWidth="4.5"
          data-testid="slice-edge"
        />
      ) : null}
      {shape.support ? (
        <path
          d={shape.support}
          fill="none"
          stroke="var(--ash)"
          strokeWidth="2.6"
          strokeLinejoin="round"
          data-testid="slice-support"
        />
      ) : null}
      <path d={outline} fill="none" stroke="var(--soot)" strokeWidth="0.7" />
    </svg>
  );
}

/** The underside with its predicted spots; dark ones are hatched as well. */
export function Underside({ crust, reference }: { crust: CrustNow; reference: Reference }) {
  const ramp = reference.ramp;
  const square = crust.square;
  const wide = spread(crust.baseL);
  return (
    <svg
      viewBox="-70 -70 140 140"
      className="w-full"
      role="img"
      aria-label={`Underside: ${crustWord(reference.words, crust.baseL)}, ${crust.spotPct.toFixed(0)} % dark spots.`}
    >
      <defs>
        <Hatch id="dark-spot" every={3} line="#000" thick={1} strong={0.55} />
      </defs>
      {square ? (
        <rect x="-64" y="-50" width="128" height="100" rx="7" fill={crustColour(ramp, crust.baseL)} />
      ) : (
        <circle r="66" fill={crustColour(ramp, crust.baseL)} />
      )}
      {SPOTS.filter((s) => Math.abs(s.z) > 0.5).map((s, i) => {
        const l = crust.baseL + s.z * wide;
        const shape = { cx: s.x * 62, cy: s.y * (square ? 48 : 62), r: s.size * 66 };
        return (
          <g key={i}>
            <circle {...shape} fill={crustColour(ramp, l)} opacity="0.9" />
            {l < 45 ? <circle {...shape} fill="url(#dark-spot)" /> : null}
          </g>
        );
      })}
      {square ? (
        <rect
          x="-64"
          y="-50"
          width="128"
          height="100"
          rx="7"
          fill="none"
          stroke="var(--soot)"
          strokeWidth="0.8"
        />
      ) : (
        <circle r="66" fill="none" stroke="var(--soot)" strokeWidth="0.8" />
      )}
    </svg>
  );
}

/** The figures, words first. */
export function CrustWords({
  crust,
  reference,
  coreWanted,
}: {
  crust: CrustNow;
  reference: Reference;
  coreWanted: number;
}) {
  const units = useUnits();
  const raw = crust.coreC < coreWanted;
  const rows: readonly [string, string, string][] = [
    [
      "base",
      crustWord(reference.words, crust.baseL),
      `L* ${crust.baseL.toFixed(0)}, spots ${crust.spotPct.toFixed(0)} %`,
    ],
    ...(crust.edgeL === null
      ? []
      : [
          [
            "edge",
            crustWord(reference.words, crust.edgeL),
            `L* ${crust.edgeL.toFixed(0)}, against the wall`,
          ] as [string, string, string],
        ]),
    ["rim", crustWord(reference.words, crust.rimL), `L* ${crust.rimL.toFixed(0)}`],
    [
      "cheese",
      crust.coreC < 45 ? "unmelted" : crustWord(reference.cheese_words, crust.cheeseL),
      `L* ${crust.cheeseL.toFixed(0)}`,
    ],
    [
      "crumb",
      raw ? "not set" : crust.crumb,
      `${units.temp(crust.coreC)}, ${crust.lossPct.toFixed(0)} % lost`,
    ],
    ["bite", raw ? "raw" : crust.bite, `${units.length(crust.dryMm)} dry`],
  ];
  return (
    <dl className="grid content-start gap-y-0.5">
      {rows.map(([what, word, figure]) => (
        <div key={what} className="grid grid-cols-[3.2rem_1fr] items-baseline">
          <dt className="text-ash">{what}</dt>
          <dd>
            <span className="text-[15px] leading-[1.2] font-bold">{word}</span>
            <span className="block text-[12px] leading-[1.15] text-ash">{figure}</span>
          </dd>
        </div>
      ))}
    </dl>
  );
}
