import type { Schemas } from "../../api/client";
import { Caution } from "../../ui/Caution";
import { useUnits } from "../../ui/units";
import type { Told } from "./types";

/** What a warning about the load as a whole is about. */
const LOADS = new Set(["whole", "left", "right"]);

/** What these toppings come to: load and water, what the oven makes of them, what to mind. */
export function ToppingSays({
  told,
  baked,
  planned,
}: {
  told: Told | null;
  baked: Schemas["Effect"] | undefined;
  /** Whether a plan is chosen, whose oven could say. */
  planned: boolean;
}) {
  const units = useUnits();
  const perArea = units.as("g/cm²");
  return (
    <>
      {told?.toppings ? (
        <p className="font-semibold">
          {told.toppings.halves
            .map(
              (h) =>
                `${h.half === "whole" ? "" : `${h.half}: `}${perArea.shown(h.load_g_cm2).toFixed(2)} ${perArea.unit}, ${h.water_pct.toFixed(0)} % water`,
            )
            .join(" · ")}
        </p>
      ) : null}
      {baked ? (
        <p data-testid="effect">
          <span
            className={
              baked.halves.some((h) => h.under_sauce_word === "gummy")
                ? "font-semibold text-brick"
                : "font-semibold"
            }
          >
            In the oven: {baked.say}
          </span>{" "}
          <span className="text-ash">
            Under the sauce{" "}
            {baked.halves
              .map((h) => `${h.half === "whole" ? "" : `${h.half} `}${h.under_sauce_word}`)
              .join(", ")}
            ; base {baked.base_word}.
          </span>
        </p>
      ) : !planned ? (
        <p className="text-[13px] text-ash">With a plan its oven says whether the middle sets.</p>
      ) : null}
      {/* Where the oven itself has said what becomes of this load, no rule of thumb says it otherwise. */}
      {told?.toppings?.warnings
        .filter((w) => !baked || !LOADS.has(w.about))
        .map((w) => (
          <p key={w.about + w.text} className="border-l-2 border-brick pl-2 text-[13px] leading-snug">
            {units.say(w.text)}
          </p>
        ))}
      {told?.toppings?.cautions.map((c) => (
        <Caution key={c} text={c} />
      ))}
    </>
  );
}
