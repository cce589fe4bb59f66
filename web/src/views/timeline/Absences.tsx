import { Button } from "../../ui/Button";
import { MomentField } from "../../ui/MomentField";
import { dayFrom } from "../../ui/time";
import type { Words } from "./types";

type Away = NonNullable<Words["absences"]>[number];
const MOST = 20;

/** When nobody is there. */
export function Absences({
  absences,
  nearTo,
  zone,
  problem,
  onAbsences,
}: {
  absences: readonly Away[];
  /** A moment; a new absence is the day before it. */
  nearTo: string;
  zone: string;
  problem: { path: string; text: string } | null;
  onAbsences: (next: Away[]) => void;
}) {
  const change = (i: number, to: Partial<Away>) => {
    onAbsences(absences.map((a, j) => (j === i ? { ...a, ...to } : a)));
  };
  return (
    <>
      {absences.map((away, i) => (
        <div key={i} className="grid gap-0.5 border-t border-line pt-1">
          <div className="flex flex-wrap items-baseline gap-1.5">
            away
            <MomentField
              label={`Away from, ${String(i + 1)}`}
              value={away.from_at.slice(0, 16)}
              lean="next"
              zone={zone}
              onChange={(at) => {
                change(i, { from_at: at });
              }}
            />
            to
            <MomentField
              label={`Away until, ${String(i + 1)}`}
              value={away.to_at.slice(0, 16)}
              lean="next"
              zone={zone}
              onChange={(at) => {
                change(i, { to_at: at });
              }}
            />
            <button
              type="button"
              aria-label={`There after all, ${String(i + 1)}`}
              className="px-1 text-ash hover:text-brick"
              onClick={() => {
                onAbsences(absences.filter((_, j) => j !== i));
              }}
            >
              ×
            </button>
          </div>
          {problem?.path.startsWith(`absences.${String(i)}`) ? (
            <p role="alert" className="text-brick">
              {problem.text}
            </p>
          ) : null}
        </div>
      ))}
      <Button
        look="link"
        className="justify-self-start text-air"
        disabled={absences.length >= MOST}
        onClick={() => {
          const before = dayFrom(nearTo, -1);
          onAbsences([...absences, { from_at: `${before}T08:30`, to_at: `${before}T17:00` }]);
        }}
      >
        I am away for a while
      </Button>
    </>
  );
}
