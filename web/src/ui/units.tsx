import { createContext, useContext, useState, type ReactNode } from "react";

export type System = "metric" | "us";

export interface Units {
  /** How a number kept in this unit is shown and typed here. */
  as: (unit: string) => Shown;
  system: System;
  toggle: () => void;
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

/** How a number that is kept in this unit is shown in a system; units nobody has another for stay. */
export function shownIn(system: System, unit: string): Shown {
  const same = unit === "K" ? KELVIN : { ...KELVIN, unit };
  return system === "us" ? (AMERICAN[unit] ?? same) : same;
}

export function unitsOf(system: System, toggle: () => void): Units {
  const us = system === "us";
  const temp = (c: number) =>
    us ? `${String(Math.round(fahrenheit(c)))} °F` : `${String(Math.round(c))} °C`;
  const tempDifference = (k: number) =>
    us ? `${String(Math.round((k * 9) / 5))} °F` : `${String(Math.round(k))} °C`;
  const length = (mm: number) =>
    us ? `${(mm / 25.4).toFixed(mm < 25.4 ? 2 : 1)} in` : `${String(Math.round(mm * 10) / 10)} mm`;
  const size = (cm: number) => (us ? `${(cm / 2.54).toFixed(0)} in` : `${String(Math.round(cm))} cm`);
  const mass = (g: number) =>
    us && g >= SMALL_G
      ? `${(g / OUNCE_G).toFixed(1)} oz`
      : `${g >= SMALL_G ? String(Math.round(g)) : String(Number(g.toPrecision(g < 1 ? 2 : 3)))} g`;
  const volume = (l: number) => {
    const [value, unit] = us ? [l / QUART_L, "qt"] : [l, "l"];
    return `${value < 10 ? value.toFixed(1) : String(Math.round(value))} ${unit}`;
  };
  const shown: Record<string, (value: number) => string> = {
    C: temp,
    K: tempDifference,
    mm: length,
    cm: size,
    g: mass,
    l: volume,
    "g/cm²": (value) => `${shownIn(system, "g/cm²").shown(value).toFixed(2)} ${us ? "g/in²" : "g/cm²"}`,
  };
  const say = (text: string) =>
    text.replace(
      /\{(-?[\d.]+) (C|K|mm|cm|g\/cm²|g|l)\}/g,
      (whole, value: string, unit: string) => shown[unit]?.(Number(value)) ?? whole,
    );
  return {
    system,
    as: (unit) => shownIn(system, unit),
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

const Context = createContext<Units>(unitsOf("metric", () => undefined));

/** The system this browser keeps. */
export function keptSystem(): System {
  return typeof localStorage !== "undefined" && localStorage.getItem("units") === "us" ? "us" : "metric";
}

export function UnitsProvider({ children }: { children: ReactNode }) {
  const [system, setSystem] = useState<System>(keptSystem);
  const toggle = () => {
    setSystem((was) => {
      const now = was === "us" ? "metric" : "us";
      localStorage.setItem("units", now);
      return now;
    });
  };
  return <Context.Provider value={unitsOf(system, toggle)}>{children}</Context.Provider>;
}

export function useUnits(): Units {
  return useContext(Context);
}
