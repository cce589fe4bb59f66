import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { server } from "../../api/queries";
import { crustColour, type Reference } from "../../ui/crust";
import { dateOf } from "../../ui/time";
import { lightness, seasonOf } from "./book";

const WIDE = 700;
const HIGH = 92;
const FLOOR = 70;

/** The last bakes by their days: each a crust in the colour of its base, as high as it was scored. */
export function Season({ reference }: { reference: Reference }) {
  const lines = useQuery(server.lastBakes);
  const { placed, months } = seasonOf(lines.data ?? []);
  if (placed.length < 2) return null;
  const x = (share: number) => 16 + share * (WIDE - 32);
  return (
    <figure className="mt-3">
      <figcaption className="font-semibold">The season, as high as it was scored</figcaption>
      <svg
        viewBox={`0 0 ${String(WIDE)} ${String(HIGH)}`}
        className="mt-1 block w-full max-w-3xl"
        role="list"
      >
        <line x1="0" x2={WIDE} y1={FLOOR} y2={FLOOR} stroke="var(--line)" strokeWidth="1.5" />
        {months.map((month) => (
          <text key={month.share} x={x(month.share)} y={HIGH - 4} fontSize="13" fill="var(--ash)">
            {month.name}
          </text>
        ))}
        {placed.map(({ line, share }) => {
          const l = lightness(line.came.base, reference.words);
          const high = line.score === null ? 10 : 6 * line.score;
          const said = `${line.name}, ${dateOf(line.baked_at)}${line.score === null ? "" : `, scored ${String(line.score)}`}`;
          return (
            <g key={line.id} role="listitem">
              <Link to={`/logbook/${String(line.id)}`} aria-label={said}>
                <title>{said}</title>
                <rect x={x(share) - 12} y="0" width="24" height={FLOOR} fill="transparent" />
                <rect
                  x={x(share) - 5}
                  y={FLOOR - high}
                  width="10"
                  height={high}
                  fill={l === null ? "none" : crustColour(reference.ramp, l)}
                  stroke={l === null ? "var(--ash)" : "none"}
                  strokeDasharray={line.score === null ? "2 2" : undefined}
                />
              </Link>
            </g>
          );
        })}
      </svg>
    </figure>
  );
}
