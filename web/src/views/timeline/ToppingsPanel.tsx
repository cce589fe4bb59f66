import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDebounced } from "../../ui/useDebounced";
import type { DoughReference } from "../../ui/dough";
import { ToppingRow } from "./ToppingRow";
import { ToppingSays } from "./ToppingSays";
import type { Told, Words } from "./types";

/** What lies on each pizza or half: load, water, treatment, and what the oven makes of it. */
export function ToppingsPanel({
  words,
  told,
  things,
  onWords,
}: {
  words: Words;
  told: Told | null;
  things: DoughReference;
  onWords: (to: Partial<Words>) => void;
}) {
  const picks = words.picks ?? [];
  const asked = useDebounced(
    { plan: words.plan_id ?? null, picks },
    JSON.stringify([words.plan_id, picks]),
    400,
  );
  const effect = useQuery({
    queryKey: ["topping-effect", asked.plan, JSON.stringify(asked.picks)],
    enabled: asked.plan !== null && asked.picks.length > 0,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      answer(
        client.POST("/api/timeline/effect", {
          body: { plan_id: asked.plan ?? 0, picks: asked.picks },
          signal,
        }),
      ),
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
            set([...picks, { topping: e.target.value, grams: null, half: "whole", treated: true }]);
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
      <ToppingSays told={told} baked={baked} planned={words.plan_id != null} />
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
