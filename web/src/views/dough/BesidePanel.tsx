import type { Schemas } from "../../api/client";
import { Figure } from "../../ui/Figure";
import { OUNCE_G, useUnits } from "../../ui/units";
import { withBeside } from "./beside";
import type { DoughInput } from "./types";

type Item = Schemas["BesideItem"];

/** What is used beside the dough: oil for pan, tub and rim, what lies under the base. An amount that is typed stays. */
export function BesidePanel({
  dough,
  items,
  onDough,
}: {
  dough: DoughInput;
  items: readonly Item[];
  onDough: (dough: DoughInput) => void;
}) {
  const us = useUnits().us("mass");
  const left = (dough.outside ?? []).filter((one) => one.grams === 0);
  return (
    <section aria-label="Beside the dough" className="mt-1 border-t border-line pt-2">
      <h2 className="text-[15px] font-bold">Beside the dough</h2>
      <ul>
        {items.map((item) => (
          <li key={item.name} className="flex items-baseline justify-between gap-2 text-[14px]">
            <span className={item.usual ? "text-ash" : ""}>{item.name}</span>
            {item.ingredient ? (
              <Figure
                label={`${item.name}, ${us ? "oz" : "g"}`}
                value={us ? item.grams / OUNCE_G : item.grams}
                digits={us ? 2 : 0}
                step={us ? 0.1 : 1}
                wide="w-12"
                unit={us ? "oz" : "g"}
                bounds={us ? [0, 100] : [0, 3000]}
                onChange={(value) => {
                  onDough(withBeside(dough, item, us ? value * OUNCE_G : value));
                }}
              />
            ) : (
              <span>{item.grams > 0 ? `${String(Math.round(item.grams))} g` : item.household}</span>
            )}
          </li>
        ))}
      </ul>
      {left.map((one) => (
        <button
          key={one.use}
          type="button"
          className="text-[13px] text-air underline"
          onClick={() => {
            onDough({ ...dough, outside: (dough.outside ?? []).filter((other) => other !== one) });
          }}
        >
          Add the usual oil {one.use === "tub" ? "for the tub" : `for the ${one.use}`} again
        </button>
      ))}
    </section>
  );
}
