import { Button } from "../../ui/Button";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, Refusal, type Schemas } from "../../api/client";
import { crustColour, type Reference } from "../../ui/crust";
import { Link } from "react-router";
import { partPath } from "../../supper/draft";
import type { SupperAtHand } from "../../supper/useSupper";
import { bakeTime } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { useDebounced } from "../../ui/useDebounced";
import { asked as asQuestion, type DoughInput } from "./types";

type Told = Schemas["CrustTold"];

/** The crust this dough gets in the oven of a plan, and what that oven wants of the dough. */
export function OvenPanel({
  dough,
  supper,
  reference,
  onDough,
}: {
  dough: DoughInput;
  supper: SupperAtHand;
  reference: Reference;
  onDough: (dough: DoughInput) => void;
}) {
  const units = useUnits();
  const { plan } = supper.draft;
  const planId = supper.saved?.plan?.id ?? null;
  const key = JSON.stringify([plan, dough.formula, dough.steps.map((s) => [s.temp_c <= 8, s.hours])]);
  const asked = useDebounced({ plan, dough }, key, 700);
  const [refused, setRefused] = useState("");
  const oven = useQuery({
    queryKey: ["oven", JSON.stringify([asked.plan, asked.dough.formula, asked.dough.steps])],
    enabled: asked.plan !== null,
    retry: false,
    gcTime: 30_000,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) => {
      if (!asked.plan) throw new Error("no plan");
      const body = { plan: { ...asked.plan, plan_id: planId, dough: null }, dough: asQuestion(asked.dough) };
      return answer(client.POST("/api/dough/oven", { body, signal }));
    },
  });
  const wish = plan === null ? undefined : oven.data;
  const accept = async (change: NonNullable<Schemas["OvenWish"]["change"]>) => {
    try {
      setRefused("");
      const formula = await answer(
        client.POST("/api/dough/accept", { body: { formula: asQuestion(dough).formula, change } }),
      );
      onDough({ ...dough, formula });
    } catch (error) {
      if (error instanceof Refusal) setRefused(error.message);
    }
  };
  const stale = oven.isFetching || asked.dough !== dough;
  return (
    <section
      aria-label="The oven"
      className="grid content-start gap-1.5 bg-panel p-4"
      data-oven={stale ? "old" : "now"}
    >
      <h2 className="text-[17px] font-bold">
        In the oven
        {plan && supper.headline ? (
          <span className="ml-2 font-sans text-[14px] font-normal text-ash">
            {units.say(supper.headline.where)}
          </span>
        ) : null}
      </h2>
      {plan === null ? (
        <p className="text-ash">
          <Link className="text-air underline underline-offset-2" to={partPath(supper.place, "plan")}>
            Choose the oven in Plan
          </Link>
          : then it says here what crust this dough gets, and what the oven wants of it.
        </p>
      ) : oven.error ? (
        <p role="alert" className="text-brick">
          {oven.error.message}
        </p>
      ) : !wish ? (
        <div className="h-24 bg-well waiting" aria-busy="true" />
      ) : (
        <>
          <CrustTable wish={wish} stale={stale} ramp={reference.ramp} />
          {wish.pull ? (
            <p className="leading-snug" data-testid="moves-the-pull">
              {wish.pull}
            </p>
          ) : null}
          <p className="leading-snug">{wish.say}</p>
          {wish.change ? (
            <Button
              look="press"
              className="justify-self-start !py-1"
              disabled={stale}
              onClick={() => {
                if (wish.change) void accept(wish.change);
              }}
            >
              Put it in the dough
            </Button>
          ) : null}
          <Levers
            levers={wish.levers}
            stale={stale}
            onTake={(change) => {
              void accept(change);
            }}
          />
          {refused ? (
            <p role="alert" className="text-brick">
              {refused}
            </p>
          ) : null}
        </>
      )}
    </section>
  );
}

/** The crust of this dough as it is, and with the change that helps most. */
function CrustTable({
  wish,
  stale,
  ramp,
}: {
  wish: Schemas["OvenWish"];
  stale: boolean;
  ramp: Reference["ramp"];
}) {
  return (
    <table className={`w-full text-left ${stale ? "opacity-60" : ""}`}>
      <thead className={wish.then ? "text-[13px] text-ash" : "sr-only"}>
        <tr>
          <td />
          <th scope="col" className="font-normal">
            as it is
          </th>
          {wish.then ? (
            <th scope="col" className="font-normal">
              with its wish
            </th>
          ) : null}
        </tr>
      </thead>
      <tbody>
        {ROWS.map((row) => (
          <tr key={row.name}>
            <th scope="row" className="pr-2 font-normal text-ash">
              {row.name}
            </th>
            {[wish.now, ...(wish.then ? [wish.then] : [])].map((t, i) => {
              const l = row.l?.(t);
              return (
                <td key={i} className="pr-2 font-semibold">
                  {l !== undefined ? (
                    <span
                      aria-hidden
                      className="mr-1.5 inline-block h-3 w-5 align-baseline"
                      style={{ background: crustColour(ramp, l) }}
                    />
                  ) : null}
                  {row.text(t)}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Each change by itself, what it buys, and a way to take it. */
function Levers({
  levers,
  stale,
  onTake,
}: {
  levers: Schemas["OvenWish"]["levers"];
  stale: boolean;
  onTake: (change: Schemas["OvenWish"]["levers"][number]["change"]) => void;
}) {
  if (levers.length === 0) return null;
  return (
    <ul aria-label="What each change buys" className="grid gap-1 border-t border-line pt-1.5">
      {levers.map((lever) => (
        <li key={lever.what} className="grid grid-cols-[1fr_auto] items-baseline gap-x-2">
          <span className="leading-snug">
            <span className="font-semibold">{lever.what}</span>
            <span className="text-ash">: {lever.buys}</span>
          </span>
          <Button
            look="quiet"
            aria-label={`take ${lever.what}`}
            disabled={stale}
            onClick={() => {
              onTake(lever.change);
            }}
          >
            take
          </Button>
        </li>
      ))}
    </ul>
  );
}

const ROWS: readonly { name: string; text: (t: Told) => string; l?: (t: Told) => number }[] = [
  { name: "base", text: (t) => t.base_word, l: (t) => t.base_l },
  { name: "rim", text: (t) => t.rim_word, l: (t) => t.rim_l },
  { name: "crumb", text: (t) => `${t.crumb_word}, keeps ${t.kept_pct.toFixed(0)} % water` },
  { name: "pull", text: (t) => `${bakeTime(t.likely_done_s)}, ${t.loss_pct.toFixed(0)} % lost` },
];
