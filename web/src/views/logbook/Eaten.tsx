import { useState } from "react";
import { NumberInput } from "../../ui/NumberInput";
import { useUnits } from "../../ui/units";
import { eatenMm, shownEaten } from "./eaten";

/** How thick it was as it was eaten, in the cook's unit; what is no thickness is said and not kept. */
export function Eaten({ mm, change }: { mm: number | null; change: (mm: number | null) => void }) {
  const us = useUnits().us("length");
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? shownEaten(mm, us);
  const wrong = Number.isNaN(eatenMm(text, us));
  return (
    <div className="relative">
      <p>Thickness eaten</p>
      <span className="flex items-baseline gap-2">
        <NumberInput
          label="thickness eaten"
          text={text}
          said={wrong ? (us ? "Say it in inches, 0.1 to 3." : "Say it in mm, 1 to 80.") : null}
          className="min-h-11 w-24 border border-line bg-panel px-2 text-[17px] tabular-nums"
          onText={(next) => {
            setTyped(next);
            const found = eatenMm(next, us);
            if (!Number.isNaN(found)) change(found);
          }}
          onBlur={() => {
            setTyped(null);
          }}
        />
        {us ? "in" : "mm"}
      </span>
    </div>
  );
}
