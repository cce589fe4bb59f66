import { Link } from "react-router";
import { Button } from "../../ui/Button";
import { Caution } from "../../ui/Caution";
import { bakeTime } from "../../ui/time";
import { REST_S } from "../../ui/bakeDue";
import type { Tell } from "../../ui/bakeTypes";

/** After the pull: rest, cut, and the end. */
export function Pulled({ pulledMs, now, tell }: { pulledMs: number | null; now: number; tell: Tell | null }) {
  if (tell === null)
    return (
      <p className="mt-6 text-[22px]">
        This bake is done.{" "}
        <Link className="text-air underline underline-offset-2" to="/logbook">
          Say how it came out
        </Link>
        , or{" "}
        <Link className="text-air underline underline-offset-2" to="/bake">
          bake another
        </Link>
        .
      </p>
    );
  const left = REST_S - (now - (pulledMs ?? now)) / 1000;
  return (
    <>
      <p className="font-display text-[clamp(72px,24vw,132px)] leading-none font-bold tabular-nums">
        {bakeTime(Math.max(0, left))}
      </p>
      <p className="font-display text-[clamp(24px,7vw,36px)] leading-tight font-bold text-brick">
        {left > 0 ? "Rest it on a rack, then cut" : "Cut it now"}
      </p>
      <div className="mt-4">
        <Caution text="Steam comes out where you cut; deck, pan and rack stay dangerous for an hour." />
      </div>
      <Button
        className="mt-4 min-h-12 w-full text-[18px]"
        onClick={() => {
          tell("bake.more");
        }}
      >
        One more pizza
      </Button>
      <Button
        look="press"
        className="mt-4 min-h-14 w-full text-[20px]"
        onClick={() => {
          tell("bake.ended");
        }}
      >
        End this bake
      </Button>
    </>
  );
}
