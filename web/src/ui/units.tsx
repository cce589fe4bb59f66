import { createContext, useContext, useState, type ReactNode } from "react";

export type System = "metric" | "us";

/** What is measured: each has a unit of the cook's own choice, for Fahrenheit with grams is common. */
export const QUANTITIES = ["temperature", "mass", "length", "volume"] as const;
export type Quantity = (typeof QUANTITIES)[number];
export type Systems = Record<Quantity, System>;

export interface Units {
  /** How a number kept in this unit is shown and typed here. */
  as: (unit: string) => Shown;
  systems: Systems;
  /** Whether this quantity is shown in US units. */
  us: (quantity: Quantity) => boolean;
  /** Change one quantity to its other unit, or all of them. */
  toggle: (quantity?: Quantity) => void;
  /** A temperature with its unit. */
  temp: (celsius: number) => string;
  /** A temperature difference with its unit. */
  tempDifference: (kelvin: number) => string;
  length: (millimetres: number) => string;
  size: (centimetres: number) => string;
  mass: (grams: number) => string;
  volume: (litres: number) => string;
  /** A sentence of the engine with its {255 C}, {8 K} and {10 mm} turned into these units. */
  say: (text: string) => string;
}

/** Grams in an ounce. */
export const OUNCE_G = 28.3495;
const QUART_L = 0.946353;
/** What weighs less is told in grams, whatever the units: no kitchen scale shows a tenth of an ounce truly. */
export const SMALL_G = 15;
export const POUND_G = 453.592;

export function fahrenheit(celsius: number): number {
  return (celsius * 9) / 5 + 32;
}

/** A number as it is kept, and as a cook who measures in inches, pounds and Fahrenheit reads and types it. */
export interface Shown {
  unit: string;
  shown: (kept: number) => number;
  kept: (shown: number) => number;
}

const scaled = (unit: string, by: number): Shown => ({ unit, shown: (v) => v * by, kept: (v) => v / by });
const AMERICAN: Record<string, Shown> = {
  "°C": { unit: "°F", shown: fahrenheit, kept: (f) => ((f - 32) * 5) / 9 },
  K: scaled("°F", 1.8),
  mm: scaled("in", 1 / 25.4),
  cm: scaled("in", 1 / 2.54),
  kg: scaled("lb", 1000 / POUND_G),
  g: scaled("oz", 1 / OUNCE_G),
  l: scaled("qt", 1 / QUART_L),
  m: scaled("ft", 1 / 0.3048),
  "g/cm²": scaled("g/in²", 2.54 ** 2),
  "cm²": scaled("in²", 1 / 2.54 ** 2),
};
const KELVIN: Shown = { unit: "°C", shown: (v) => v, kept: (v) => v };

/** The quantity that a unit measures; a load per area goes by the length. */
const OF_UNIT: Record<string, Quantity> = {
  "°C": "temperature",
  K: "temperature",
  kg: "mass",
  g: "mass",
  l: "volume",
};

/** All quantities in one system. */
export function allIn(system: System): Systems {
  return { temperature: system, mass: system, length: system, volume: system };
}

/** How a number that is kept in this unit is shown; units nobody has another for stay. */
export function shownIn(systems: Systems, unit: string): Shown {
  const same = unit === "K" ? KELVIN : { ...KELVIN, unit };
  return systems[OF_UNIT[unit] ?? "length"] === "us" ? (AMERICAN[unit] ?? same) : same;
}

export function unitsOf(systems: Systems, toggle: (quantity?: Quantity) => void): Units {
  const us = (quantity: Quantity) => systems[quantity] === "us";
  const temp = (c: number) =>
    us("temperature") ? `${String(Math.round(fahrenheit(c)))} °F` : `${String(Math.round(c))} °C`;
  const tempDifference = (k: number) =>
    us("temperature") ? `${String(Math.round((k * 9) / 5))} °F` : `${String(Math.round(k))} °C`;
  const length = (mm: number) =>
    us("length") ? `${(mm / 25.4).toFixed(mm < 25.4 ? 2 : 1)} in` : `${String(Math.round(mm * 10) / 10)} mm`;
  const size = (cm: number) =>
    us("length") ? `${(cm / 2.54).toFixed(0)} in` : `${String(Math.round(cm))} cm`;
  const mass = (g: number) =>
    us("mass") && g >= SMALL_G
      ? `${(g / OUNCE_G).toFixed(1)} oz`
      : `${g >= SMALL_G ? String(Math.round(g)) : String(Number(g.toPrecision(g < 1 ? 2 : 3)))} g`;
  const volume = (l: number) => {
    const [value, unit] = us("volume") ? [l / QUART_L, "qt"] : [l, "l"];
    return `${value < 10 ? value.toFixed(1) : String(Math.round(value))} ${unit}`;
  };
  const shown: Record<string, (value: number) => string> = {
    C: temp,
    K: tempDifference,
    mm: length,
    cm: size,
    g: mass,
    l: volume,
    "g/cm²": (value) =>
      `${shownIn(systems, "g/cm²").shown(value).toFixed(2)} ${us("length") ? "g/in²" : "g/cm²"}`,
  };
  const say = (text: string) =>
    text.replace(
      /\{(-?[\d.]+) (C|K|mm|cm|g\/cm²|g|l)\}/g,
      (whole, value: string, unit: string) => shown[unit]?.(Number(value)) ?? whole,
    );
  return {
    systems,
    us,
    as: (unit) => shownIn(systems, unit),
    toggle,
    temp,
    tempDifference,
    length,
    size,
    mass,
    volume,
    say,
  };
}

const Context = createContext<Units>(unitsOf(allIn("metric"), () => undefined));

/** The units this browser keeps: a word where all are of one system, else the system of each quantity. */
export function keptSystems(): Systems {
  const kept = typeof localStorage === "undefined" ? null : localStorage.getItem("units");
  if (!kept?.startsWith("{")) return allIn(kept === "us" ? "us" : "metric");
  try {
    const each = JSON.parse(kept) as Partial<Systems>;
    const found = allIn("metric");
    for (const quantity of QUANTITIES) if (each[quantity] === "us") found[quantity] = "us";
    return found;
  } catch {
    return allIn("metric");
  }
}

function keep(systems: Systems): void {
  const one = QUANTITIES.every((quantity) => systems[quantity] === systems.temperature);
  localStorage.setItem("units", one ? systems.temperature : JSON.stringify(systems));
}

const other = (system: System): System => (system === "us" ? "metric" : "us");

export function UnitsProvider({ children }: { children: ReactNode }) {
  const [systems, setSystems] = useState<Systems>(keptSystems);
  const toggle = (quantity?: Quantity) => {
    setSystems((was) => {
      const now = quantity ? { ...was, [quantity]: other(was[quantity]) } : allIn(other(was.temperature));
      keep(now);
      return now;
    });
  };
  return <Context.Provider value={unitsOf(systems, toggle)}>{children}</Context.Provider>;
}

export function useUnits(): Units {
  return useContext(Context);
}
