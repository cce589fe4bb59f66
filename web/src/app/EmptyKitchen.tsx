import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { useUnits } from "../ui/units";
import { Oven } from "../ui/Oven";
import { OrdinaryKitchen } from "./OrdinaryKitchen";

/** A kitchen in which nothing bakes yet: says why, and offers the first step. */
export function EmptyKitchen({
  rigs,
  kitchen,
}: {
  rigs: { missing: string; not_standing: Schemas["RigsOut"]["not_standing"] };
  kitchen: { hearths: unknown[]; surfaces: unknown[]; pans: unknown[] } | null;
}) {
  const units = useUnits();
  const owned = kitchen ? kitchen.hearths.length + kitchen.surfaces.length + kitchen.pans.length : 1;
  if (owned > 0)
    return (
      <main className="grid h-full content-center justify-items-center gap-4 p-8 text-center">
        <Oven />
        <h1 className="font-display text-3xl font-bold">Nothing bakes here yet</h1>
        <p className="max-w-md text-base">{units.say(rigs.missing)}</p>
        {rigs.not_standing.length > 0 ? (
          <ul className="max-w-xl text-left">
            {rigs.not_standing.map((one) => (
              <li key={`${one.noun}${String(one.id)}`}>
                <span className="font-semibold">{one.name}:</span> {units.say(one.why)}
              </li>
            ))}
          </ul>
        ) : null}
        <Link className="press text-base" to="/kitchen">
          To the kitchen
        </Link>
      </main>
    );
  return (
    <main className="grid h-full content-center justify-items-center gap-5 p-8 text-center">
      <Oven />
      <h1 className="font-display text-3xl font-bold">Nothing in this kitchen yet</h1>
      <p className="max-w-md text-base text-ash">
        Begin with an ordinary one: an electric oven to {units.temp(250)}, an 8 mm steel, a 15 mm stone and a
        thin tray. You can plan with it at once. Or{" "}
        <Link className="text-air underline underline-offset-2" to="/kitchen">
          put in what you own
        </Link>
        .
      </p>
      <OrdinaryKitchen />
    </main>
  );
}
