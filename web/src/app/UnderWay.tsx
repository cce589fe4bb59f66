import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { NavLink, useLocation } from "react-router";
import type { Schemas } from "../api/client";
import { answerBake, server } from "../api/queries";
import { bakeTime, minuteOf } from "../ui/time";
import { useNow } from "../ui/useNow";
import { dueOf } from "../ui/bakeDue";
import { answerFor, when } from "../ui/bakeStages";

const WORDS = { heating: "Heating", baking: "Baking", pulled: "Resting", ended: "Done" } as const;

/** The bakes under way, with their clocks, in sight everywhere. */
export function UnderWay() {
  const underWay = useQuery({ ...server.underWay, refetchInterval: 15_000, staleTime: 5000 });
  const { pathname } = useLocation();
  // On the bake itself its own clock is in sight.
  if (pathname.startsWith("/bake")) return null;
  return (
    <>
      {(underWay.data ?? [])
        .filter((one) => !one.problem)
        .map((one) => {
          return (
            <NavLink
              key={one.id}
              to={`/bake/${String(one.id)}`}
              title={`${one.name}, ${one.hearth}`}
              data-testid="under-way"
              className="bg-[#9f3828] px-3 py-2 leading-tight text-white hover:underline"
            >
              <span className="block text-[12px]">
                {WORDS[one.stage]}
                {one.pizzas > 1 ? ` ${String(one.pizza)}/${String(one.pizzas)}` : ""}
              </span>
              <span className="block text-[17px] font-bold tabular-nums">
                <Since at={one.pulled_at ?? one.launched_at ?? one.heat_on_at} />
              </span>
              <NextThing one={one} />
            </NavLink>
          );
        })}
    </>
  );
}

/** What is next in it, and when. */
function NextThing({ one }: { one: Schemas["BakeLine"] }) {
  const live = useQuery({
    queryKey: ["bake-next", one.id, one.version],
    queryFn: () => answerBake(one.id),
    placeholderData: keepPreviousData,
    refetchInterval: 30_000,
  });
  const now = useNow(1) * 60_000;
  const ms = (at: string | null) => (at === null ? null : Date.parse(at));
  const stage = {
    pizza: one.pizza,
    count: one.pizzas,
    launchedMs: ms(one.launched_at),
    pulledMs: ms(one.pulled_at),
    beforeMs: null,
    endedMs: null,
  };
  const due = dueOf(stage, answerFor(live.data?.live, stage), Date.parse(one.heat_on_at), now);
  if (!due) return null;
  const at = when((due.atMs - now) / 1000);
  return (
    <span className="block text-[12px] whitespace-normal" data-testid="under-way-next">
      {due.text} {due.text.endsWith(` ${at}`) ? "" : at}
    </span>
  );
}

/** How long ago, counting. */
function Since({ at }: { at: string }) {
  const now = useNow(1);
  return <>{bakeTime(Math.max(0, (now - minuteOf(at)) * 60))}</>;
}
