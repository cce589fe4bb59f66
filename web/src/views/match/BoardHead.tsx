import { Button } from "../../ui/Button";
import { SORTS, type Sort } from "./board";

const FAMILIES: readonly (readonly [string, string])[] = [
  ["", "all"],
  ["round", "rounds"],
  ["thin", "thin"],
  ["tray", "trays"],
  ["pan", "pans"],
  ["flame", "flames"],
  ["grill", "grills"],
  ["own", "my own"],
];
const WITHIN: readonly number[] = [0, 30, 45, 60, 90, 120];

/** What of the board is asked for. */
export interface Asked {
  family: string;
  sort: Sort;
  people: number;
  /** Eaten within so many minutes; 0: any time. */
  within: number;
}

/** Which styles, for how many, in what time and order. */
export function BoardHead({ asked, onAsk }: { asked: Asked; onAsk: (to: Partial<Asked>) => void }) {
  const { family, sort, people, within } = asked;
  return (
    <div className="flex flex-wrap items-center gap-4">
      <div role="group" aria-label="Styles shown" className="flex max-md:flex-wrap">
        {FAMILIES.map(([key, name]) => (
          <Button
            key={key}

            aria-pressed={family === key}
            style={family === key ? { background: "var(--soot)", color: "var(--ground)" } : {}}
            onClick={() => {
              onAsk({ family: key });
            }}
          >
            {name}
          </Button>
        ))}
      </div>
      <label className="flex items-center gap-1.5 text-ash">
        for
        <select
          aria-label="people"
          className="field px-1 py-1"
          value={people}
          onChange={(e) => {
            onAsk({ people: Number(e.target.value) });
          }}
        >
          {Array.from({ length: 12 }, (_, i) => (
            <option key={i}>{i + 1}</option>
          ))}
        </select>
        eaten
        <select
          aria-label="eaten within"
          className="field px-1 py-1"
          value={within}
          onChange={(e) => {
            onAsk({ within: Number(e.target.value) });
          }}
        >
          {WITHIN.map((m) => (
            <option key={m} value={m}>
              {m === 0 ? "any time" : `within ${String(m)} min`}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-2 text-ash">
        order
        <select
          className="field px-2 py-1"
          value={sort}
          onChange={(e) => {
            onAsk({ sort: e.target.value as Sort });
          }}
        >
          {SORTS.map((s) => (
            <option key={s}>{s}</option>
          ))}
        </select>
      </label>
    </div>
  );
}
