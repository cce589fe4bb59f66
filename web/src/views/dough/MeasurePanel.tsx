import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { Figure } from "../../ui/Figure";
import { FillSelect, type Fill } from "./FillSelect";
import type { DoughReference } from "./types";

const NAMES: Record<string, string> = {
  instant_yeast: "instant",
  active_dry_yeast: "active dry",
  fresh_yeast: "fresh",
};

/** So much of this in every other unit; a yeast also as the other yeasts. */
export function MeasurePanel({ things }: { things: DoughReference }) {
  const [ingredient, setIngredient] = useState("bread_flour");
  const [amount, setAmount] = useState(1);
  const [unit, setUnit] = useState("cup");
  const [fill, setFill] = useState<Fill>("spooned");
  const told = useQuery({
    queryKey: ["convert", ingredient, amount, unit, fill],
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      answer(client.POST("/api/dough/convert", { body: { ingredient, amount, unit, fill }, signal })),
  });
  return (
    <div className="grid content-start gap-4 text-[15px]">
      <p className="flex flex-wrap items-baseline gap-2">
        <Figure label="Amount" value={amount} digits={3} step={0.25} onChange={setAmount} />
        <select
          aria-label="Unit"
          className="border-b border-line bg-panel"
          value={unit}
          onChange={(e) => {
            setUnit(e.target.value);
          }}
        >
          {things.units.map((u) => (
            <option key={u}>{u}</option>
          ))}
        </select>
        of
        <select
          aria-label="Ingredient"
          className="border-b border-line bg-panel font-semibold"
          value={ingredient}
          onChange={(e) => {
            setIngredient(e.target.value);
          }}
        >
          {things.ingredients.map((t) => (
            <option key={t.key} value={t.key}>
              {t.name}
            </option>
          ))}
        </select>
        <span className="text-ash">cup</span>
        <FillSelect
          label="How the cup is filled"
          value={fill}
          onFill={(next) => {
            setFill(next);
          }}
        />
      </p>
      {told.error ? (
        <p role="alert" className="text-brick">
          {told.error.message}
        </p>
      ) : told.data ? (
        <>
          <p className="font-display text-[26px] font-bold" data-testid="converted">
            {trimmed(told.data.grams)} g{told.data.household ? ` · ${told.data.household}` : ""}
          </p>
          <dl className="grid max-w-xs grid-cols-[auto_1fr] gap-x-6 gap-y-0.5">
            {told.data.amounts.map((a) => (
              <div key={a.unit} className="contents">
                <dt className="text-ash">{a.unit}</dt>
                <dd className="text-right font-semibold">{trimmed(a.amount)}</dd>
              </div>
            ))}
          </dl>
          {told.data.yeasts.length ? (
            <p>
              raises like{" "}
              {told.data.yeasts.map((y) => `${trimmed(y.amount)} g ${NAMES[y.unit] ?? y.unit}`).join(", ")}.
              Active dry wakes in warm water with a pinch of sugar for 5 min: no foam, and it is dead.
            </p>
          ) : null}
        </>
      ) : null}
    </div>
  );
}

function trimmed(value: number): string {
  return value >= 100 ? value.toFixed(0) : value >= 10 ? value.toFixed(1) : value.toPrecision(3);
}
