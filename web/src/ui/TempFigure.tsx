import type { ComponentProps } from "react";
import { UnitFigure } from "./UnitFigure";

/** A temperature to be typed in the cook's own unit; value, bounds and answer are in C. */
export function TempFigure(props: Omit<ComponentProps<typeof UnitFigure>, "kept" | "step">) {
  return <UnitFigure {...props} kept="°C" step={1} />;
}
