import { Link } from "react-router";
import { useUnits } from "../ui/units";
import { partPath } from "./draft";
import type { Headline } from "./types";

/** The parts of the line, and the view that changes each. */
const PARTS = [
  ["when", "timeline"],
  ["what", "dough"],
  ["where", "plan"],
  ["dough", "dough"],
] as const;

/** The supper in one line, the same in every view; each part leads to where it is changed. */
export function SupperLine({ headline, place }: { headline: Headline | null; place: string }) {
  const units = useUnits();
  if (!headline) return <p className="h-[1.5em] text-[14px]" aria-hidden />;
  return (
    <p data-testid="headline" className="text-[14px] leading-snug text-ash print:hidden">
      {PARTS.map(([key, part], i) => (
        <span key={key}>
          {i > 0 ? " · " : ""}
          <Link className="font-semibold text-air hover:underline" to={partPath(place, part)}>
            {units.say(headline[key])}
          </Link>
        </span>
      ))}
    </p>
  );
}

/** The same line where nothing of it is changed: at the oven, as the supper was when its heat went on. */
export function SupperSaid({ headline }: { headline: Headline }) {
  const units = useUnits();
  return (
    <p data-testid="headline" className="hidden text-[13px] text-ash md:block">
      {PARTS.map(([key]) => units.say(headline[key])).join(" · ")}
    </p>
  );
}
