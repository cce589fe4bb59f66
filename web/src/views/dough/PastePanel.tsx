import { useState } from "react";
import { answer, client, Refusal, type Schemas } from "../../api/client";
import { useKept } from "../../ui/useKept";
import { FillSelect, type Fill } from "./FillSelect";
import type { Batch, DoughInput, DoughReference } from "./types";

type Told = Schemas["ReadResult"];
type Reading = Schemas["Reading"];
interface Pasted {
  text: string;
  fill: Fill;
  told: Told | null;
}

/** Paste a list, see how each line was read, put it right, compare it with the dough, use it. */
export function PastePanel({
  owner,
  dough,
  now,
  things,
  onDough,
}: {
  owner: string;
  dough: DoughInput;
  now: Batch;
  things: DoughReference;
  onDough: (dough: DoughInput) => void;
}) {
  const [kept, keep] = useKept<Pasted>(`pasted ${owner}`);
  const pasted: Pasted = kept ?? { text: "", fill: "spooned", told: null };
  const [problem, setProblem] = useState("");
  const [busy, setBusy] = useState(false);
  const ask = async (call: () => Promise<Told>, as: Pasted) => {
    setBusy(true);
    setProblem("");
    try {
      keep({ ...as, told: await call() });
    } catch (error) {
      keep(as.text.length > 100_000 ? { ...as, text: as.text.slice(0, 100_000) } : as);
      setProblem(
        error instanceof Refusal
          ? error.status === 413
            ? "That is far more than a list of ingredients; paste the list alone."
            : error.message
          : "It could not be read.",
      );
    } finally {
      setBusy(false);
    }
  };
  const read = (as: Pasted) =>
    ask(() => answer(client.POST("/api/dough/read", { body: { text: as.text, fill: as.fill } })), as);
  const correct = (readings: readonly Reading[]) =>
    ask(
      () =>
        answer(
          client.POST("/api/dough/readings", {
            body: {
              fill: pasted.fill,
              lines: readings.map((r) => ({
                text: r.text,
                ingredient: r.ingredient,
                amount: r.amount,
                unit: r.unit || "g",
              })),
            },
          }),
        ),
      pasted,
    );
  const change = (i: number, to: Partial<Reading>) => {
    const readings = pasted.told?.readings ?? [];
    const next = readings.map((r, j) => (j === i ? { ...r, ...to } : r));
    if (pasted.told) keep({ ...pasted, told: { ...pasted.told, readings: next } });
    void correct(next);
  };
  const told = pasted.told;
  return (
    <div className="grid min-h-0 content-start gap-3 overflow-y-auto pr-1 lg:grid-cols-[12rem_1fr]">
      <div className="grid content-start gap-2">
        <textarea
          aria-label="A list of ingredients"
          className="field h-52 resize-none text-[14px]"
          placeholder={"3 1/2 cups bread flour\n1 1/4 cups warm water\n2 tsp salt\n1 packet dry yeast"}
          value={pasted.text}
          onChange={(e) => {
            keep({ ...pasted, text: e.target.value });
          }}
        />
        <div className="flex flex-wrap items-center justify-between gap-2">
          <button
            type="button"
            className="press !py-1 whitespace-nowrap"
            disabled={busy}
            onClick={() => {
              void read(pasted);
            }}
          >
            Read it
          </button>
          <label className="text-[13px] text-ash">
            cups{" "}
            <FillSelect
              label="How its cups are filled"
              value={pasted.fill}
              onFill={(fill) => {
                const as = { ...pasted, fill };
                keep(as);
                if (told) void read(as);
              }}
            />
          </label>
        </div>
        {problem ? (
          <p role="alert" className="text-brick">
            {problem}
          </p>
        ) : (
          <p className="text-[13px] leading-snug text-ash">
            Any list, one ingredient to a line; also a Recipe in JSON-LD or a CSV table of ingredient and
            grams.
          </p>
        )}
      </div>
      {told ? (
        <div className="grid min-w-0 content-start gap-2">
          <p className="font-semibold">{told.say}</p>
          <table className="w-full text-left">
            <thead className="text-[13px] text-ash">
              <tr>
                <th className="font-normal">read as</th>
                <th className="font-normal" colSpan={2}>
                  so much
                </th>
                <th className="text-right font-normal">g</th>
                <th className="text-right font-normal">%</th>
                <th className="text-right font-normal">yours</th>
              </tr>
            </thead>
            <tbody>
              {told.readings.map((r, i) => (
                // By what stands in the line: the fields of one list are never those of another.
                <tr
                  key={`${String(i)} ${r.text}`}
                  className="border-t border-line align-baseline"
                  data-reading={i}
                >
                  <td className="py-1 pr-2">
                    <select
                      aria-label={`What “${r.text}” is`}
                      className="max-w-[9.6rem] border-b border-line bg-panel font-semibold"
                      value={r.ingredient}
                      onChange={(e) => {
                        change(i, { ingredient: e.target.value });
                      }}
                    >
                      <option value="">left out</option>
                      {things.ingredients.map((t) => (
                        <option key={t.key} value={t.key}>
                          {t.name}
                        </option>
                      ))}
                    </select>
                    <span className="block text-[12.5px] text-ash">“{r.text}”</span>
                    {r.note ? (
                      <span className="block text-[13px] font-semibold text-brick">{r.note}</span>
                    ) : null}
                    {r.problem ? (
                      <span className="block text-[13px] text-brick">{r.problem}</span>
                    ) : !r.sure ? (
                      <span className="block text-[12.5px] text-air">
                        a guess; put it right if you know better
                      </span>
                    ) : null}
                  </td>
                  <td className="pr-1">
                    <input
                      key={String(r.amount)}
                      aria-label={`How much of “${r.text}”`}
                      className="figure w-12"
                      inputMode="decimal"
                      defaultValue={r.amount === null ? "" : String(Math.round(r.amount * 1000) / 1000)}
                      onBlur={(e) => {
                        const amount = Number(e.target.value.replace(",", "."));
                        if (e.target.value.trim() !== "" && !Number.isNaN(amount) && amount !== r.amount)
                          change(i, { amount });
                      }}
                      onKeyDown={(e) => {
                        if (e.key === "Enter") e.currentTarget.blur();
                      }}
                    />
                  </td>
                  <td className="pr-2">
                    <select
                      aria-label={`Unit of “${r.text}”`}
                      className="border-b border-line bg-panel"
                      value={r.unit || "g"}
                      onChange={(e) => {
                        change(i, { unit: e.target.value });
                      }}
                    >
                      {things.units.map((u) => (
                        <option key={u}>{u}</option>
                      ))}
                    </select>
                  </td>
                  <td className="pl-2 text-right font-semibold">{r.grams === null ? "" : short(r.grams)}</td>
                  <td className="pl-3 text-right">
                    {short(told.lines.find((l) => l.ingredient === r.ingredient)?.pct)}
                  </td>
                  <td className="pl-3 text-right text-ash">
                    {short(dough.formula.lines.find((l) => l.ingredient === r.ingredient)?.pct)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {told.shares ? (
            <table aria-label="Compared" className="w-full text-right [&_td]:pl-3 [&_th]:pl-3">
              <thead className="text-[13px] text-ash">
                <tr>
                  <td />
                  {SHARES.map((s) => (
                    <th key={s.key} scope="col" className="font-normal">
                      {s.name}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                <tr>
                  <th scope="row" className="text-left font-normal">
                    this one
                  </th>
                  {SHARES.map((s) => (
                    <td key={s.key} className="font-semibold">
                      {short(told.shares?.[s.key])} %
                    </td>
                  ))}
                </tr>
                <tr className="text-ash">
                  <th scope="row" className="text-left font-normal">
                    yours
                  </th>
                  {SHARES.map((s) => (
                    <td key={s.key}>{short(now.formula[s.key])} %</td>
                  ))}
                </tr>
              </tbody>
            </table>
          ) : null}
          {told.lines.length ? (
            <div className="flex gap-2">
              <button
                type="button"
                className="press !py-1"
                onClick={() => {
                  onDough({
                    ...dough,
                    formula: {
                      ...dough.formula,
                      preferments: [],
                      lines: told.lines.map((l) => ({ ...l, pct: Math.round(l.pct * 1000) / 1000 })),
                    },
                  });
                }}
              >
                Use it, for these pieces
              </button>
              <button
                type="button"
                className="quiet"
                onClick={() => {
                  keep(null);
                }}
              >
                Clear
              </button>
            </div>
          ) : null}
        </div>
      ) : (
        <p className="text-ash">
          What is pasted is read line by line, and stands here beside your own dough.
        </p>
      )}
    </div>
  );
}

const SHARES = [
  { key: "hydration_pct", name: "water" },
  { key: "salt_pct", name: "salt" },
  { key: "yeast_pct", name: "yeast as instant" },
  { key: "oil_pct", name: "fat" },
  { key: "sugar_pct", name: "sugar" },
] as const;

function short(value: number | undefined): string {
  if (value === undefined) return "–";
  return value >= 100 ? value.toFixed(0) : value >= 10 ? value.toFixed(1) : value.toFixed(2);
}
