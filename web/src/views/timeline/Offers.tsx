import { useUnits } from "../../ui/units";
import type { Told } from "./types";

/** What clashes, and the nearest that is possible. */
export function Offers({
  result,
  onTake,
}: {
  result: Told["result"];
  onTake: (changes: Record<string, string | boolean | number | null>) => void;
}) {
  const units = useUnits();
  return (
    <section aria-label="What would do" className="grid gap-2 bg-panel p-4 print:hidden" data-testid="clash">
      <p role="alert" className="text-[16px] font-semibold text-brick">
        {units.say(result.say)}
      </p>
      {result.offers.length ? (
        <>
          <p>What would do instead:</p>
          <div className="flex flex-wrap gap-2">
            {result.offers.map((offer) => (
              <button
                key={offer.text}
                type="button"
                className="quiet max-w-80 px-3 py-2 text-left"
                data-offer={offer.kind}
                onClick={() => {
                  onTake(offer.changes);
                }}
              >
                <span className="block font-semibold">{OFFERED[offer.kind] ?? offer.kind}</span>
                {units.say(offer.text)}
              </button>
            ))}
          </div>
        </>
      ) : (
        <p>Nothing near does: move the serving time, free a pinned step, or change when you are there.</p>
      )}
    </section>
  );
}

const OFFERED: Record<string, string> = {
  later: "Later",
  warmer: "Warmer",
  "more yeast": "More yeast",
  "same-day": "The same day",
  programme: "Other hours",
  night: "Get up for it",
};
