import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { NavLink, useLocation } from "react-router";
import { server } from "../api/queries";
import { bakeTime } from "../ui/time";

const WORDS = { heating: "Heating", baking: "Baking", pulled: "Resting", ended: "Done" } as const;

/** The bakes under way, with their clocks, in sight everywhere. */
export function UnderWay() {
  const underWay = useQuery({ ...server.underWay, refetchInterval: 15_000, staleTime: 5000 });
  const { pathname } = useLocation();
  const [now, setNow] = useState(() => Date.now());
  const some = (underWay.data?.length ?? 0) > 0;
  useEffect(() => {
    if (!some) return;
    const timer = setInterval(() => {
      setNow(Date.now());
    }, 1000);
    return () => {
      clearInterval(timer);
    };
  }, [some]);
  // On the bake itself its own clock is in sight.
  if (pathname.startsWith("/bake")) return null;
  return (
    <>
      {(underWay.data ?? []).map((one) => {
        const since = Date.parse(one.pulled_at ?? one.launched_at ?? one.heat_on_at);
        return (
          <NavLink
            key={one.id}
            to={`/bake/${String(one.id)}`}
            title={`${one.name}, ${one.hearth}`}
            data-testid="under-way"
            className="bg-[#9f3828] px-3 py-2 leading-tight text-white hover:underline"
          >
            <span className="block text-[12px]">{WORDS[one.stage]}</span>
            <span className="block text-[17px] font-bold tabular-nums">
              {bakeTime(Math.max(0, (now - since) / 1000))}
            </span>
          </NavLink>
        );
      })}
    </>
  );
}
