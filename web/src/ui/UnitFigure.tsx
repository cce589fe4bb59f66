import type { ComponentProps } from "react";
import { Figure } from "./Figure";
import { useUnits } from "./units";

/** A number to be typed in the cook's own unit; value, bounds and answer are in the unit it is kept in. */
export function UnitFigure({
  kept: keptIn,
  value,
  bounds,
  onChange,
  ...rest
}: Omit<ComponentProps<typeof Figure>, "unit" | "bounds"> & {
  /** The unit it is kept in. */
  kept: string;
  bounds: readonly [number, number];
}) {
  const { unit, shown, kept } = useUnits().as(keptIn);
  return (
    <Figure
      {...rest}
      value={shown(value)}
      unit={unit}
      bounds={[shown(bounds[0]), shown(bounds[1])]}
      onChange={(typed) => {
        onChange(Math.max(bounds[0], Math.min(bounds[1], kept(typed))));
      }}
    />
  );
}
