import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { doughAsked } from "../../supper/draft";
import type { SupperAtHand } from "../../supper/useSupper";
import { useDebounced } from "../../ui/useDebounced";
import type { DoughReference } from "../../ui/dough";
import { OwnTopping } from "./OwnTopping";
import { ToppingRow } from "./ToppingRow";
import { ToppingSays } from "./ToppingSays";
import type { Told, Words } from "./types";

/** What lies on each pizza or half: load, water, treatment, and what the oven makes of it. */
export function ToppingsPanel({
  supper,
  words,
  told,
  things,
  onWords,
}: {
  supper: SupperAtHand;
  words: Words;
  told: Told | null;
  things: DoughReference;
  onWords: (to: Partial<Words>) => void;
}) {
  const picks = words.picks ?? [];
  const { plan, dough } = supper.draft;
  const asked = useDebounced(
    { plan, dough, picks },
    JSON.stringify([plan, dough?.dough.formula, picks]),
    400,
  );
  const effect = useQuery({
    queryKey: ["topping-effect", JSON.stringify([asked.plan, asked.dough?.dough.formula, asked.picks])],
    enabled: asked.plan !== null && asked.picks.length > 0,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) => {
      if (!asked.plan) throw new Error("no plan");
      const made = asked.dough ? doughAsked(asked.dough.dough) : null;
      return answer(
        client.POST("/api/timeline/effect", {
          body: { plan: asked.plan, dough: made, picks: asked.picks },
          signal,
        }),
      );
    },
  });
  const set = (next: typeof picks) => {
    onWords({ picks: next });
  };
  const change = (i: number, to: Partial<(typeof picks)[number]>) => {
    set(picks.map((p, j) => (j === i ? { ...p, ...to } : p)));
  };
  const baked = asked.plan !== null && picks.length ? effect.data : undefined;
  return (
    <div
      className="grid content-start gap-2"
      data-effect={effect.isFetching || asked.picks !== picks ? "old" : "now"}
    >
      <ul className="grid">
        {picks.map((pick, i) => {
          return (
            <ToppingRow
              key={i}
              pick={pick}
              kind={things.toppings.find((t) => t.key === pick.topping)}
              usualG={told?.toppings?.lots[i]?.each_g ?? 0}
              lot={told?.toppings?.lots[i]}
              onChange={(to) => {
                change(i, to);
              }}
              onLeaveOut={() => {
                set(picks.filter((_, j) => j !== i));
              }}
            />
          );
        })}
      </ul>
      <select
        aria-label="Add a topping"
        className="justify-self-start border-b border-line bg-panel text-air"
        value=""
        disabled={picks.length >= 16}
        onChange={(e) => {
          if (e.target.value)
            set([
              ...picks,
              {
                topping: e.target.value,
                name: "",
                wet: true,
                goes_on: "over",
                grams: null,
                half: "whole",
                treated: true,
              },
            ]);
        }}
      >
        <option value="">add a topping</option>
        {things.toppings
          .filter((t) => !picks.some((p) => p.topping === t.key && (p.half ?? "whole") === "whole"))
          .map((t) => (
            <option key={t.key} value={t.key}>
              {t.name}
            </option>
          ))}
      </select>
      {picks.length < 16 ? (
        <OwnTopping
          onAdd={(own) => {
            set([...picks, own]);
          }}
        />
      ) : null}
      <ToppingSays told={told} baked={baked} planned={plan !== null} />
      <label className="flex items-center gap-2 text-[13px]">
        <input
          type="checkbox"
          checked={words.in_heat ?? false}
          onChange={(e) => {
            onWords({ in_heat: e.target.checked });
          }}
        />
        it is hot where they wait
      </label>
    </div>
  );
}
