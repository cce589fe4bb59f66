import type { ComponentProps } from "react";
import { Figure } from "./Figure";
import { fahrenheit, useUnits } from "./units";

/** A temperature to be typed in the cook's own unit; value, bounds and answer are in C. */
export function TempFigure({
  value,
  bounds,
  onChange,
  ...rest
}: Omit<ComponentProps<typeof Figure>, "unit" | "step" | "bounds"> & { bounds: readonly [number, number] }) {
  const us = useUnits().system === "us";
  return (
    <Figure
      {...rest}
      value={us ? fahrenheit(value) : value}
      step={1}
      unit={us ? "°F" : "°C"}
      bounds={us ? [fahrenheit(bounds[0]), fahrenheit(bounds[1])] : bounds}
      onChange={(typed) => {
        onChange(Math.max(bounds[0], Math.min(bounds[1], us ? ((typed - 32) * 5) / 9 : typed)));
      }}
    />
  );
}
