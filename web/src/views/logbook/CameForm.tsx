import type { Reference } from "../../ui/crust";
import { Taps } from "../../ui/Taps";
import { shadesOf, SWATCHES, SwatchRow } from "../../ui/SwatchRow";
import { Eaten } from "./Eaten";
import { byPlace, lightness, nearest, type Came, type Fault } from "./book";
import { withSeen } from "./photo";

const BITES = ["limp", "bends", "crisp", "snaps"] as const;
const CRUMBS = ["gummy", "moist", "dry"] as const;
const ON: Record<string, string> = {
  base: "the base",
  crumb: "the crumb",
  dough: "the dough",
  rim: "the rim",
  cheese: "the top",
};

/** What came of a bake, by tap: colours, bite, crumb, what went wrong, a score, and words. */
export function CameForm({
  came,
  change,
  reference,
  faults,
}: {
  came: Came;
  change: (came: Came) => void;
  reference: Reference;
  faults: readonly Fault[];
}) {
  const wrong = came.faults ?? [];
  return (
    <>
      <h2 className="mt-5 text-[20px] font-bold">How it came out</h2>
      {SWATCHES.map(([part, row]) => {
        const words = part === "cheese" ? reference.cheese_words : reference.words;
        const chosen = nearest(lightness(came[part], words), row);
        return (
          <SwatchRow
            key={part}
            part={part}
            shades={shadesOf(reference, part, row)}
            chosen={chosen}
            note={
              came.measured?.includes(part) ? `measured, L* ${String(Math.round(Number(came[part])))}` : ""
            }
            see={(l) => {
              change(withSeen(came, part, chosen === l ? null : l));
            }}
          />
        );
      })}
      <div className="mt-3 grid gap-x-6 gap-y-3 md:grid-cols-2">
        <Taps
          label="Base"
          words={BITES}
          value={came.crisp ?? null}
          pick={(crisp) => {
            change({ ...came, crisp });
          }}
        />
        <Taps
          label="Crumb"
          words={CRUMBS}
          value={came.crumb ?? null}
          pick={(crumb) => {
            change({ ...came, crumb });
          }}
        />
        <Eaten
          mm={came.thickness_mm ?? null}
          change={(thickness_mm) => {
            change({ ...came, thickness_mm });
          }}
        />
      </div>
      <Score
        value={came.score ?? null}
        pick={(score) => {
          change({ ...came, score });
        }}
      />
      <h2 className="mt-4 text-[17px] font-bold">What went wrong</h2>
      <div className="grid gap-x-6 md:grid-cols-2">
        {byPlace(faults).map(([place, rows]) => (
          <fieldset key={place} className="mt-2">
            <legend className="text-ash">on {ON[place] ?? place}</legend>
            {rows.map((one) => (
              <label key={one.key} className="flex min-h-11 items-center gap-3">
                <input
                  type="checkbox"
                  className="size-5 shrink-0"
                  checked={wrong.includes(one.key)}
                  onChange={(e) => {
                    change({
                      ...came,
                      faults: e.target.checked ? [...wrong, one.key] : wrong.filter((key) => key !== one.key),
                    });
                  }}
                />
                <span>
                  {one.name}
                  {wrong.includes(one.key) ? (
                    <span className="block text-[13.5px] text-ash">blamed: {one.blame.join(", ")}</span>
                  ) : null}
                </span>
              </label>
            ))}
          </fieldset>
        ))}
      </div>
      <Words came={came} change={change} />
    </>
  );
}

function Score({ value, pick }: { value: number | null; pick: (score: number | null) => void }) {
  return (
    <div className="mt-3" role="group" aria-label="Score">
      <p>Score</p>
      <div className="grid grid-cols-10">
        {Array.from({ length: 10 }, (_, i) => i + 1).map((score) => (
          <button
            key={score}
            type="button"
            aria-label={`score ${String(score)}`}
            aria-pressed={score === value}
            className={`min-h-11 border border-line tabular-nums ${score === value ? "bg-brick font-bold text-brick-ink" : "bg-panel"}`}
            onClick={() => {
              pick(score === value ? null : score);
            }}
          >
            {score}
          </button>
        ))}
      </div>
    </div>
  );
}

function Words({ came, change }: { came: Came; change: (came: Came) => void }) {
  const row = "min-h-11 w-full border border-line bg-panel px-2 text-[17px]";
  return (
    <div className="mt-4 grid gap-3">
      <label>
        Who liked it
        <input
          className={row}
          maxLength={160}
          value={came.liked_by ?? ""}
          onChange={(e) => {
            change({ ...came, liked_by: e.target.value });
          }}
        />
      </label>
      <label>
        Next time
        <input
          className={row}
          maxLength={160}
          value={came.next_time ?? ""}
          onChange={(e) => {
            change({ ...came, next_time: e.target.value });
          }}
        />
      </label>
      <label>
        Note
        <textarea
          className={`${row} py-2`}
          rows={3}
          maxLength={2000}
          value={came.note ?? ""}
          onChange={(e) => {
            change({ ...came, note: e.target.value });
          }}
        />
      </label>
    </div>
  );
}
