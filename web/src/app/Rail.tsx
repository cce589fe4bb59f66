import { server } from "../api/queries";
import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useEffect, useRef } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { signOut } from "../api/session";
import { QUANTITIES, useUnits, type Quantity } from "../ui/units";
import { NextStep } from "./NextStep";
import { UnderWay } from "./UnderWay";
import { useEvening } from "./evening";
import { useOutbox } from "./useOutbox";
import { useShortcut } from "./useShortcut";
import { isOpen, pathFrom, VIEWS } from "./views";

const LAST_TRY_MS = 1500;

/** The unit by which each quantity is shown in the rail. */
const SHOWN_BY: Record<Quantity, string> = { temperature: "°C", mass: "g", length: "cm", volume: "l" };
const UNITS = QUANTITIES.map((quantity) => [quantity, SHOWN_BY[quantity]] as const);

/** The rail: views, units, light, and whose kitchen this is. */
export function Rail({ email }: { email: string }) {
  const outbox = useOutbox();
  const navigate = useNavigate();
  const units = useUnits();
  const [evening, toggleLight] = useEvening();
  const kitchen = useQuery(server.kitchen);
  const { pathname } = useLocation();
  useShortcut([...VIEWS.map((_, i) => String(i + 1)), "u"], (key) => {
    if (key === "u") units.toggle();
    else void navigate(pathFrom(pathname, VIEWS[Number(key) - 1]?.path ?? "/plan"));
  });
  const row = useRef<HTMLDivElement>(null);
  useEffect(() => {
    row.current
      ?.querySelector("[aria-current=page]")
      ?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [pathname]);
  const leave = async () => {
    // What waits is sent first, where the server answers soon.
    await Promise.race([outbox.flush(), new Promise((resolve) => setTimeout(resolve, LAST_TRY_MS))]);
    void navigate("/");
    await signOut();
  };
  const own = (
    <>
      <div
        role="group"
        aria-label="Units"
        title="Units; u changes all"
        className="grid grid-cols-4 md:grid-cols-2 md:px-2"
      >
        {UNITS.map(([quantity, unit]) => (
          <button
            key={quantity}
            type="button"
            aria-label={`${quantity} in ${units.as(unit).unit}: change it`}
            className="px-2 py-1 text-left hover:text-white max-md:min-h-11"
            onClick={() => {
              units.toggle(quantity);
            }}
          >
            {units.as(unit).unit}
          </button>
        ))}
      </div>
      <button
        type="button"
        className="px-2 py-1.5 text-left hover:text-white max-md:min-h-11 md:px-4"
        onClick={toggleLight}
        aria-pressed={evening}
      >
        {evening ? "Evening" : "Day"}
      </button>
      <Link
        to="/account"
        title={email}
        className="px-2 py-1.5 leading-tight font-semibold text-white hover:underline max-md:min-h-11 md:px-4 md:whitespace-normal"
      >
        {kitchen.data?.name ?? "Account"}
      </Link>
      <button
        type="button"
        className="px-2 py-1.5 text-left hover:text-white max-md:min-h-11 md:px-4"
        onClick={() => void leave()}
      >
        Sign out
      </button>
    </>
  );
  return (
    <nav
      aria-label="Views"
      className="flex shrink-0 items-stretch bg-rail whitespace-nowrap text-rail-ink md:w-24 md:flex-col md:gap-1 md:py-4"
    >
      <Link
        to="/plan"
        className="font-display text-[17px] font-bold text-white max-md:sr-only md:px-4 md:pb-5"
      >
        Mattone
      </Link>
      {/* On a phone one line, as long as it has to be: it scrolls, and what is open is in sight. */}
      <div
        ref={row}
        data-scrolls
        className="flex min-w-0 flex-1 overflow-x-auto [scrollbar-width:none] md:flex-none md:flex-col md:gap-1 md:overflow-visible"
      >
        {VIEWS.map((view, i) => (
          <Link
            key={view.path}
            to={pathFrom(pathname, view.path)}
            aria-current={isOpen(pathname, view.path) ? "page" : undefined}
            className={`flex min-h-11 shrink-0 items-center justify-between px-3 py-2 md:min-h-0 md:items-baseline ${isOpen(pathname, view.path) ? "bg-[#9f3828] font-semibold text-white" : "hover:text-white"}`}
          >
            {view.name}
            <span aria-hidden className="hidden text-[11px] opacity-90 md:inline">
              {i + 1}
            </span>
          </Link>
        ))}
      </div>
      <div className="flex items-center gap-1 max-md:border-l max-md:border-[#4a5155] md:mt-auto md:flex-col md:items-stretch">
        <UnderWay />
        <NextStep />
        <div className="hidden md:contents">{own}</div>
        <Popover.Root>
          <Popover.Trigger
            className="min-h-11 px-3 hover:text-white md:hidden"
            aria-label="more: units, light, account"
          >
            more
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="end"
              className="z-30 grid min-w-44 bg-rail p-2 text-rail-ink md:hidden"
              aria-label="Units, light, account"
            >
              {own}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </div>
    </nav>
  );
}
