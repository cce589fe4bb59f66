import { crustForm } from "../../ui/sliceShape";
import type { CrustNow } from "../../ui/Slice";
import type { StyleBody } from "../../ui/styles";

/** A figure of a style: its words, the unit it is kept in, its bounds, how it is read and set. */
export interface StyleFigure {
  name: string;
  unit: string;
  bounds: readonly [number, number];
  digits: number;
  step: number;
  get: (s: StyleBody) => number;
  set: (s: StyleBody, v: number) => StyleBody;
}

const MINUTES: readonly [number, number] = [0.5, 60];

const end = (of: "bake_s" | "deck_c", i: 0 | 1, name: string): StyleFigure => {
  const by = of === "bake_s" ? 60 : 1;
  return {
    name,
    unit: of === "bake_s" ? "min" : "°C",
    bounds: of === "bake_s" ? MINUTES : [100, 550],
    digits: of === "bake_s" ? 1 : 0,
    step: of === "bake_s" ? 0.5 : 5,
    get: (s) => (s[of][i] ?? 0) / by,
    set: (s, v) => ({ ...s, [of]: s[of].map((was, k) => (k === i ? v * by : was)) }),
  };
};

type Plain =
  "mass_g" | "diameter_cm" | "hydration_pct" | "oil_pct" | "sugar_pct" | "topping_g_cm2" | "loss_pct";
const plain = (
  key: Plain,
  name: string,
  unit: string,
  bounds: readonly [number, number],
  digits: number,
  step: number,
): StyleFigure => ({
  name,
  unit,
  bounds,
  digits,
  step,
  get: (s) => s[key] ?? 0,
  set: (s, v) => ({ ...s, [key]: v }),
});

/** The figures in the order a cook thinks of them. */
export const GROUPS: readonly { name: string; figures: readonly StyleFigure[] }[] = [
  {
    name: "One piece",
    figures: [
      plain("mass_g", "dough for one", "g", [40, 4000], 1, 5),
      plain("diameter_cm", "size across", "cm", [12, 60], 1, 1),
      plain("topping_g_cm2", "topping", "g/cm²", [0, 1], 2, 0.01),
    ],
  },
  {
    name: "Its dough",
    figures: [
      plain("hydration_pct", "water", "%", [40, 110], 1, 1),
      plain("oil_pct", "oil", "%", [0, 20], 1, 0.5),
      plain("sugar_pct", "sugar", "%", [0, 15], 1, 0.5),
    ],
  },
  {
    name: "Its bake",
    figures: [
      end("bake_s", 0, "bake from"),
      end("bake_s", 1, "bake to"),
      end("deck_c", 0, "deck from"),
      end("deck_c", 1, "deck to"),
      plain("loss_pct", "water it loses", "%", [3, 30], 0, 1),
    ],
  },
];

/** Dough on a square centimetre, g. */
export function loadingOf(s: StyleBody): number {
  return s.mass_g / ((Math.PI * s.diameter_cm ** 2) / 4);
}

/** What a base holds of dough, g/cm²: outside the server refuses it by name. */
const LOADING: readonly [number, number] = [0.08, 1.5];

/** The style as it is kept: what is usual of it reaches as far as its own figures do. */
export function asKept(s: StyleBody): StyleBody {
  const reach = (band: readonly number[], v: number): number[] => [
    Math.min(band[0] ?? v, v),
    Math.max(band[1] ?? v, v),
  ];
  const loading = loadingOf(s);
  const holds = loading >= LOADING[0] && loading <= LOADING[1];
  return {
    ...s,
    key: "own",
    band: {
      loading_g_cm2: holds ? reach(s.band.loading_g_cm2, loading) : [...s.band.loading_g_cm2],
      hydration_pct: reach(s.band.hydration_pct, s.hydration_pct),
      oil_pct: reach(s.band.oil_pct, s.oil_pct ?? 0),
      sugar_pct: reach(s.band.sugar_pct, s.sugar_pct ?? 0),
    },
  };
}

const PAN_WALL_MM = 45;
/** A dry layer that is drawn where nothing was baked, mm. */
const DRY_MM = 1.8;

/** The crust this style wants, to be drawn: nothing of it was baked. */
export function wantedCrust(s: StyleBody): CrustNow {
  const family = { family: s.family ?? "round", shape: s.shape ?? "hand" };
  const form = crustForm(family);
  return {
    baseL: s.target.base,
    rimL: s.target.rim,
    cheeseL: s.target.cheese,
    coreC: s.core_c ?? 93,
    lossPct: s.loss_pct ?? 12,
    dryMm: DRY_MM,
    spotPct: 0,
    edgeL: form === "pan" ? s.target.base : null,
    bite: "",
    crumb: "",
    rise: 1,
    loadingGcm2: loadingOf(s),
    form,
    square: form === "tray" || form === "pan",
    wallMm: form === "pan" ? PAN_WALL_MM : 0,
  };
}
