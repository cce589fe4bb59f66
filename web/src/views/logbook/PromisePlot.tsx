import { Link } from "react-router";
import { bakeTime } from "../../ui/time";
import { against, type BakeTold } from "./book";

const HIGH = 170;
const LEFT = 44;
const MOST_LN = 0.75;
const STEP = 34;
const SHOWN = 24;

/** Each bake as it came against the window that was foretold of it then, the oldest first; 0 is as foretold. */
export function PromisePlot({ bakes }: { bakes: readonly BakeTold[] }) {
  const shown = bakes.slice(-SHOWN);
  const wide = LEFT + STEP * Math.max(8, shown.length) + 10;
  const y = (ln: number) =>
    HIGH / 2 - (Math.max(-MOST_LN, Math.min(MOST_LN, ln)) / MOST_LN) * (HIGH / 2 - 14);
  return (
    <figure className="mt-4">
      <figcaption className="font-semibold">Foretold and come, bake after bake</figcaption>
      <svg
        viewBox={`0 0 ${String(wide)} ${String(HIGH)}`}
        className="mt-1 block w-full max-w-3xl"
        role="list"
      >
        {[-0.405, 0, 0.405].map((ln) => (
          <g key={ln}>
            <line
              x1={LEFT}
              x2={wide}
              y1={y(ln)}
              y2={y(ln)}
              stroke="var(--line)"
              strokeWidth={ln === 0 ? 2 : 1}
            />
            <text x="0" y={y(ln) + 5} fontSize="13" fill="var(--ash)">
              {ln === 0 ? "as told" : ln > 0 ? "+50 %" : "-33 %"}
            </text>
          </g>
        ))}
        {shown.map((one, i) => {
          const { low, high, came } = against(one);
          const x = LEFT + STEP * (i + 0.75);
          const said = `${one.name}: foretold ${bakeTime(one.foretold_s)}, came ${one.came_s === null ? "unseen" : bakeTime(one.came_s)}`;
          return (
            <g key={one.key} role="listitem">
              <Link to={`/logbook/${String(one.entry_id)}`} aria-label={said}>
                <title>{said}</title>
                <rect x={x - 13} y="0" width="26" height={HIGH} fill="transparent" />
                <rect x={x - 5} y={y(high)} width="10" height={y(low) - y(high)} fill="var(--line)" />
                {came === null ? null : (
                  <circle
                    cx={x}
                    cy={y(came)}
                    r="6"
                    fill={one.counted > 0 ? "var(--brick)" : "var(--ground)"}
                    stroke="var(--brick)"
                    strokeWidth="2"
                  />
                )}
              </Link>
            </g>
          );
        })}
      </svg>
      <p className="text-[13.5px] text-ash">
        Bars are the windows that were promised, dots when the crust was right by what was seen; a hollow one
        does not count.
      </p>
    </figure>
  );
}
