import { Link } from "react-router";
import { hearthKind, type Kinds } from "../../ui/kinds";
import type { Hearth, Instrument, Noun, Thing } from "./things";

/** From a thing to the view that is all its own, where it has one. */
export function WaysOn({ noun, thing, kinds }: { noun: Noun; thing: Thing; kinds: Kinds }) {
  const way =
    noun === "hearths" && hearthKind(kinds, (thing as Hearth).kind)?.heat === "dial"
      ? { to: `/kitchen/dial/${String(thing.id)}`, word: "Does the dial tell the truth?" }
      : noun === "instruments" && (thing as Instrument).kind === "wireless"
        ? { to: `/kitchen/instrument/${String(thing.id)}`, word: "What it says, and its tokens" }
        : null;
  if (!way) return null;
  return (
    <Link to={way.to} className="quiet mt-1 justify-self-start no-underline">
      {way.word}
    </Link>
  );
}
