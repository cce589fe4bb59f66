import { createContext, useContext, useState, type ReactNode } from "react";

export type System = "metric" | "us";

export interface Units {
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
export const POUND_G = 453.592;

export function fahrenheit(celsius: number): number {
  return (celsius * 9) / 5 + 32;
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
  const mass = (g: number) => (us ? `${(g / OUNCE_G).toFixed(1)} oz` : `${String(Math.round(g))} g`);
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
  };
  const say = (text: string) =>
    text.replace(
      /\{(-?[\d.]+) (C|K|mm|cm|g|l)\}/g,
      (whole, value: string, unit: string) => shown[unit]?.(Number(value)) ?? whole,
    );
  return { system, toggle, temp, tempDifference, length, size, mass, volume, say };
}

const Context = createContext<Units>(unitsOf("metric", () => undefined));

export function UnitsProvider({ children }: { children: ReactNode }) {
  const [system, setSystem] = useState<System>(() =>
    localStorage.getItem("units") === "us" ? "us" : "metric",
  );
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
