import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { server } from "../../api/queries";
import { useUnits } from "../../ui/units";
import { PromisePlot } from "./PromisePlot";
import { Season } from "./Season";
import type { Reference } from "../../ui/crust";
import type { Schemas } from "../../api/client";
import type { Taught as TaughtOut } from "./book";

type Trait = Schemas["Trait"];

/** What the kitchen has taught: each thing in words with how sure it is, every bake against its promise, and what to measure next. */
export function Taught({ reference }: { reference: Reference }) {
  const taught = useQuery(server.taught);
  if (!taught.data) return <p className="text-ash waiting">What was learned is being weighed</p>;
  const { dough, likes, hearths, rigs, bakes } = taught.data;
  const traits = hearths.flatMap((one) => one.traits.map((trait) => ({ of: one.hearth, trait })));
  const asked = bakes.filter((one) => one.asks || one.deck_asks);
  return (
    <section aria-label="What your kitchen has taught" className="max-w-3xl">
      <h2 className="text-[24px] font-bold">What your kitchen has taught</h2>
      {bakes.length === 0 ? (
        <p className="mt-2 max-w-prose">
          Nothing yet. Every bake that is logged narrows the windows that Mattone promises: how hot this oven
          really is, how your dough browns, how this steel or that pan bakes.
        </p>
      ) : null}
      {asked.map((one) => (
        <p key={one.key} className="mt-2 border-l-4 border-brick pl-3">
          <Link className="text-air underline underline-offset-2" to={`/logbook/${String(one.entry_id)}`}>
            {one.name}
          </Link>{" "}
          came out far from what was expected: is it right?
        </p>
      ))}
      <Season reference={reference} />
      {bakes.length > 0 ? <PromisePlot bakes={bakes} /> : null}
      {rigs.length > 0 ? <Promises taught={taught.data} /> : null}
      <ul className="mt-3">
        {traits.map(({ of, trait }) => (
          <Said key={`${of} ${trait.name}`} of={of} trait={trait} />
        ))}
        {dough ? <Said of="your dough" trait={dough} /> : null}
        {likes.map((one) => (
          <li key={one.part} className="border-t border-line py-2">
            <span className="block text-[13.5px] text-ash">your liking, from {one.bakes} bakes</span>
            <span className="text-[18px] font-semibold">{one.text}</span>
          </li>
        ))}
      </ul>
      <Rigs taught={taught.data} />
    </section>
  );
}

function Said({ of, trait }: { of: string; trait: Trait }) {
  const units = useUnits();
  return (
    <li className="border-t border-line py-2">
      <span className="block text-[13.5px] text-ash">{of}</span>
      <span className="text-[18px] font-semibold">{units.say(trait.text)}</span>
    </li>
  );
}

const MORE: Record<Schemas["Worth"]["what"], string> = {
  "a bake logged": "One more bake, with its colours,",
  "a bake with photos": "One more bake, with photos,",
  "a deck reading": "The deck read at its launch",
  "a preheat log": "A preheat log",
};

function Rigs({ taught }: { taught: TaughtOut }) {
  return (
    <ul>
      {taught.rigs.map((rig) => {
        const next = rig.worth[0];
        return (
          <li key={rig.key} className="border-t border-line py-2">
            <span className="block text-[13.5px] text-ash">
              {rig.support}, {rig.hearth} · from {rig.bakes} {rig.bakes === 1 ? "bake" : "bakes"}
            </span>
            <span className="block text-[18px] font-semibold">{rig.trait?.text}</span>
            <span className="block">
              Its window is {Math.round(100 * (1 - rig.narrower))} % narrower than before its first bake.
              {next && next.narrower_pct >= 5
                ? ` ${MORE[next.what]} would narrow what is left to learn by ${String(next.narrower_pct)} %.`
                : ""}
            </span>
          </li>
        );
      })}
    </ul>
  );
}

function Promises({ taught }: { taught: TaughtOut }) {
  return (
    <p className="mt-2">
      Eight in ten are promised to come inside their window. So far:{" "}
      {taught.promised
        .filter((one) => one.of > 0)
        .map((one) => `${String(one.inside)} of ${String(one.of)} on ${one.rig}`)
        .join("; ")}
      .
    </p>
  );
}
