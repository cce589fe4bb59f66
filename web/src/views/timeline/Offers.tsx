import { Button } from "../../ui/Button";
import { dayAndClock } from "../../ui/time";
import { useUnits } from "../../ui/units";
import type { Told } from "./types";

/** What clashes, and the nearest that is possible. */
export function Offers({
  result,
  fixed,
  nameOf,
  onFree,
  onTake,
}: {
  result: Told["result"];
  /** What the cook pinned or did, which may be what stands in the way. */
  fixed: readonly { step: string; at: string; done?: boolean }[];
  nameOf: (step: string) => string;
  onFree: (step: string) => void;
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
              <Button
                key={offer.text}
                className="max-w-80 px-3 py-2 text-left"
                data-offer={offer.kind}
                onClick={() => {
                  onTake(offer.changes);
                }}
              >
                <span className="block font-semibold">{OFFERED[offer.kind] ?? offer.kind}</span>
                {units.say(offer.text)}
              </Button>
            ))}
          </div>
        </>
      ) : (
        <p>Nothing near does: move the serving time, free a pinned step, or change when you are there.</p>
      )}
      {fixed.length ? (
        <ul className="flex flex-wrap gap-x-5 gap-y-1 text-[14px]">
          {fixed.map((one) => (
            <li key={one.step}>
              {one.done ? "done" : "pinned"}: {nameOf(one.step)}, {dayAndClock(one.at)}{" "}
              <Button
                look="link"
                className="py-1 text-air"
                onClick={() => {
                  onFree(one.step);
                }}
              >
                take it back
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}

const OFFERED: Record<string, string> = {
  later: "Later",
  earlier: "Sooner",
  warmer: "Warmer",
  "more yeast": "More yeast",
  "same-day": "The same day",
  programme: "Other hours",
  night: "Get up for it",
};
