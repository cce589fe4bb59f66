import { eachG } from "./lines";
import type { DoughInput } from "./types";
import type { Told } from "./usePasted";

const thousandth = (value: number) => Math.round(value * 1000) / 1000;

/** The dough made of a list that was read: its lines, what it makes before and uses beside it; its pieces and hours stay. */
export function withList(
  dough: DoughInput,
  told: Pick<Told, "lines"> & Partial<Pick<Told, "preferments" | "outside" | "water_c">>,
): DoughInput {
  const beside = told.outside ?? [];
  const kept = (dough.outside ?? []).filter((one) => !beside.some((other) => other.use === one.use));
  return {
    ...dough,
    outside: [...kept, ...beside],
    water: { ...dough.water, given_c: told.water_c ?? null } as DoughInput["water"],
    formula: {
      ...dough.formula,
      preferments: (told.preferments ?? []).map((p) => ({ ...p, flour_pct: thousandth(p.flour_pct) })),
      lines: told.lines.map((l) => ({ ...l, pct: thousandth(l.pct) })),
    },
  };
}

/** The same dough as large as its list makes it: its pieces as many, each larger or smaller. */
export function ofItsMass(dough: DoughInput, doughG: number): DoughInput {
  const now = dough.formula.pieces.reduce((sum, p) => sum + (p.count ?? 1) * eachG(p), 0);
  const by = doughG / (1 + (dough.formula.bowl_loss_pct ?? 1.5) / 100) / now;
  return {
    ...dough,
    formula: {
      ...dough.formula,
      // A pan filled otherwise than it usually is, is a mass of its own.
      pieces: dough.formula.pieces.map((p) => ({
        ...p,
        mass_g: Math.round(eachG(p) * by * 10) / 10,
        area_cm2: null,
        loading_g_cm2: null,
      })),
    },
  };
}
