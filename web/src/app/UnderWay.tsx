import { useQuery } from "@tanstack/react-query";
import { NavLink, useLocation } from "react-router";
import { server } from "../api/queries";
import { bakeTime, minuteOf } from "../ui/time";
import { useNow } from "../ui/useNow";

const WORDS = { heating: "Heating", baking: "Baking", pulled: "Resting", ended: "Done" } as const;

/** The bakes under way, with their clocks, in sight everywhere. */
export function UnderWay() {
  const underWay = useQuery({ ...server.underWay, refetchInterval: 15_000, staleTime: 5000 });
  const { pathname } = useLocation();
  // On the bake itself its own clock is in sight.
  if (pathname.startsWith("/bake")) return null;
  return (
    <>
      {(underWay.data ?? []).map((one) => {
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
          </NavLink>
        );
      })}
    </>
  );
}

/** How long ago, counting. */
function Since({ at }: { at: string }) {
  const now = useNow(1);
  return <>{bakeTime(Math.max(0, (now - minuteOf(at)) * 60))}</>;
}
