import { NavLink } from "react-router";
import type { Reference } from "../../ui/crust";
import { MiniSlice } from "../../ui/MiniSlice";
import { crustForm, miniThick } from "../../ui/sliceShape";
import type { StyleLine } from "../../ui/styles";

/** Cheese as most styles want it: golden spots. */
const CHEESE_L = 74;

/** All styles with the crust each wants: one's own to change, the others to begin from. */
export function StyleShelf({
  lines,
  here,
  ramp,
}: {
  lines: readonly StyleLine[];
  here: string;
  ramp: Reference["ramp"];
}) {
  const shelves = [
    ["Your own", lines.filter((line) => line.ownId !== null)],
    ["Begin from another", lines.filter((line) => line.ownId === null)],
  ] as const;
  return (
    <nav aria-label="Styles" className="grid gap-3 lg:col-span-2">
      {shelves.map(([name, row]) =>
        row.length ? (
          <section key={name}>
            <h2 className="mb-1 text-[16px] font-bold">{name}</h2>
            <ul className="flex flex-wrap gap-2">
              {row.map((line) => (
                <li key={line.key}>
                  <NavLink
                    to={`/match/style/${line.key}`}
                    className={`flex min-h-11 items-center gap-2 px-3 py-1.5 ${line.key === here ? "bg-panel font-bold" : "hover:bg-panel"}`}
                  >
                    <MiniSlice
                      ramp={ramp}
                      baseL={line.base_l}
                      rimL={line.rim_l}
                      cheeseL={CHEESE_L}
                      dryMm={1.8}
                      thick={miniThick(line)}
                      form={crustForm(line)}
                      faded={false}
                    />
                    {line.name}
                  </NavLink>
                </li>
              ))}
            </ul>
          </section>
        ) : null,
      )}
    </nav>
  );
}
