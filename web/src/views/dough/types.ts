import type { Schemas } from "../../api/client";
import type { DoughInput, DoughPart } from "../../supper/types";
import type { Listed } from "../../ui/styles";

export type { DoughInput };
export type Line = Schemas["Line"];
export type Piece = Schemas["Piece"];
export type RiseStep = Schemas["RiseStep"];
export type Batch = Listed<Schemas["BatchResult"]>;
export type Change = Schemas["Change"];
export type { DoughReference } from "../../ui/dough";
export type SavedDough = Listed<Schemas["DoughOut"]>;
export type Kitchen = Schemas["KitchenOut"];

export { doughAsked as asked } from "../../supper/draft";

/** The dough of the supper at hand, named as the supper or the recipe is. */
export type DoughDraft = DoughPart;

/** The stages worth waiting for: a bulk that is divided long before it is ready is not. */
export function awaited(windows: Batch["rise"]["windows"]) {
  return windows.filter(
    (w, i) => i === windows.length - 1 || (w.ready_h ?? Infinity) <= w.to_h + 0.5 * (w.to_h - w.from_h),
  );
}

/** A moment so many hours after another, as a clock says it. */
export function clockAt(moment: Date, withDay: boolean): string {
  const time = moment.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  return withDay ? `${moment.toLocaleDateString("en-GB", { weekday: "short" })} ${time}` : time;
}

/** For a field of a local date and time: yyyy-mm-ddThh:mm. */
export function localField(moment: Date): string {
  const shifted = new Date(moment.getTime() - moment.getTimezoneOffset() * 60_000);
  return shifted.toISOString().slice(0, 16);
}
