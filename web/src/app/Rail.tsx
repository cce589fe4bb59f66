import { server } from "../api/queries";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { Link, NavLink, useLocation, useNavigate } from "react-router";
import { signOut } from "../api/account";
import { forgetKept } from "../api/kept";
import { useUnits } from "../ui/units";
import { NextStep } from "./NextStep";
import { UnderWay } from "./UnderWay";
import { useEvening } from "./evening";
import { useShortcut } from "./useShortcut";
import { VIEWS } from "./views";

/** The rail: views, units, light, and whose kitchen this is. */
export function Rail({ email }: { email: string }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const units = useUnits();
  const [evening, toggleLight] = useEvening();
  const kitchen = useQuery(server.kitchen);
  useShortcut([...VIEWS.map((_, i) => String(i + 1)), "u"], (key) => {
    if (key === "u") units.toggle();
    else void navigate(VIEWS[Number(key) - 1]?.path ?? "/plan");
  });
  const row = useRef<HTMLDivElement>(null);
  const { pathname } = useLocation();
  useEffect(() => {
    row.current
      ?.querySelector("[aria-current=page]")
      ?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [pathname]);
  const leave = async () => {
    await signOut();
    queries.clear();
    await forgetKept();
    void navigate("/");
  };
  return (
    <nav
      aria-label="Views"
      className="flex shrink-0 flex-wrap items-center gap-1 bg-rail px-3 py-2 whitespace-nowrap text-rail-ink md:w-24 md:flex-col md:flex-nowrap md:items-stretch md:gap-1 md:px-0 md:py-4"
    >
      <Link to="/plan" className="font-display text-[17px] font-bold text-white md:px-4 md:pb-5">
        Mattone
      </Link>
      {/* On a phone a row of its own, as long as it has to be: it scrolls, and what is open is in sight. */}
      <div
        ref={row}
        className="order-last flex w-full overflow-x-auto [scrollbar-width:none] md:order-none md:w-auto md:flex-col md:gap-1"
      >
        {VIEWS.map((view, i) => (
          <NavLink
            key={view.path}
            to={view.path}
            className={({ isActive }) =>
              `flex min-h-11 items-center justify-between px-3 py-2 md:min-h-0 md:items-baseline ${isActive ? "bg-[#9f3828] font-semibold text-white" : "hover:text-white"}`
            }
          >
            {view.name}
            <span aria-hidden className="hidden text-[11px] opacity-90 md:inline">
              {i + 1}
            </span>
          </NavLink>
        ))}
      </div>
      <div className="ml-auto flex items-center gap-1 md:mt-auto md:ml-0 md:flex-col md:items-stretch">
        <UnderWay />
        <NextStep />
        <button
          type="button"
          className="px-2 py-1.5 md:px-4 text-left hover:text-white"
          onClick={units.toggle}
          title="Units (u)"
        >
          {units.system === "metric" ? "°C g cm" : "°F oz in"}
        </button>
        <button
          type="button"
          className="hidden px-4 py-1.5 text-left md:block hover:text-white"
          onClick={toggleLight}
          aria-pressed={evening}
        >
          {evening ? "Evening" : "Day"}
        </button>
        <Link
          to="/account"
          title={email}
          className="px-2 py-1.5 md:px-4 font-semibold leading-tight text-white md:whitespace-normal hover:underline"
        >
          {kitchen.data?.name ?? "Account"}
        </Link>
        <button
          type="button"
          className="px-2 py-1.5 md:px-4 text-left hover:text-white"
          onClick={() => void leave()}
        >
          Sign out
        </button>
      </div>
    </nav>
  );
}
