import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { Caution } from "../../ui/Caution";
import { Figure } from "../../ui/Figure";
import { useDebounced } from "../../ui/useDebounced";
import { OUNCE_G, useUnits } from "../../ui/units";
import type { DoughReference } from "../../ui/dough";
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
  const units = useUnits();
  const picks = words.picks ?? [];
  const us = units.system === "us";
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
          const kind = things.toppings.find((t) => t.key === pick.topping);
          const lot = told?.toppings?.lots[i];
          return (
            <li
              key={i}
              className="grid grid-cols-[1fr_auto_auto_4.6rem_auto] items-baseline gap-x-2 border-t border-line py-1"
              data-pick={pick.topping}
            >
              <span className="leading-tight font-semibold">{kind?.name ?? pick.topping}</span>
              <Figure
                label={`${kind?.name ?? ""} on one pizza`}
                value={us ? (pick.grams ?? lot?.each_g ?? 0) / OUNCE_G : (pick.grams ?? lot?.each_g ?? 0)}
                digits={us ? 2 : 0}
                step={us ? 0.2 : 5}
                wide="w-12"
                unit={us ? "oz" : "g"}
                bounds={us ? [0, 70] : [0, 2000]}
                onChange={(value) => {
                  change(i, { grams: Math.max(0, Math.min(2000, us ? value * OUNCE_G : value)) });
                }}
              />
              <select
                aria-label={`Where the ${kind?.name ?? ""} lies`}
                className="border-b border-line bg-panel"
                value={pick.half ?? "whole"}
                onChange={(e) => {
                  change(i, { half: e.target.value as "whole" | "left" | "right", grams: null });
                }}
              >
                <option value="whole">all over</option>
                <option value="left">left half</option>
                <option value="right">right half</option>
              </select>
              {kind?.treat ? (
                <label className="flex items-center gap-1 text-[13px]" title={kind.treat}>
                  <input
                    type="checkbox"
                    checked={pick.treated ?? true}
                    onChange={(e) => {
                      change(i, { treated: e.target.checked });
                    }}
                  />
                  treated
                </label>
              ) : (
                <span />
              )}
              <button
                type="button"
                aria-label={`Leave out ${kind?.name ?? ""}`}
                className="ml-auto px-1 text-ash hover:text-brick"
                onClick={() => {
                  set(picks.filter((_, j) => j !== i));
                }}
              >
                ×
              </button>
            </li>
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
      {told?.toppings ? (
        <p className="font-semibold">
          {told.toppings.halves
            .map(
              (h) =>
                `${h.half === "whole" ? "" : `${h.half}: `}${h.load_g_cm2.toFixed(2)} g/cm², ${h.water_pct.toFixed(0)} % water`,
            )
            .join(" · ")}
        </p>
      ) : null}
      {baked ? (
        <p data-testid="effect">
          <span
            className={
              baked.halves.some((h) => h.under_sauce_word === "gummy")
                ? "font-semibold text-brick"
                : "font-semibold"
            }
          >
            In the oven: {baked.say}
          </span>{" "}
          <span className="text-ash">
            Under the sauce{" "}
            {baked.halves
              .map((h) => `${h.half === "whole" ? "" : `${h.half} `}${h.under_sauce_word}`)
              .join(", ")}
            ; base {baked.bottom_word}.
          </span>
        </p>
      ) : words.plan_id == null ? (
        <p className="text-[13px] text-ash">With a plan its oven says whether the middle sets.</p>
      ) : null}
      {told?.toppings?.warnings.map((w) => (
        <p key={w.about + w.text} className="border-l-2 border-brick pl-2 text-[13px] leading-snug">
          {units.say(w.text)}
        </p>
      ))}
      {told?.toppings?.cautions.map((c) => (
        <Caution key={c} text={c} />
      ))}
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
