import { server } from "../../api/queries";
import { NumberInput } from "../../ui/NumberInput";
import { isNumber, numberIn } from "../../ui/numbers";
import { Button } from "../../ui/Button";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { useUndo } from "../../app/Undo";
import { useStyles, type StyleBody, type StyleLine } from "../../ui/styles";
import { useUnits } from "../../ui/units";

/** A figure of a style: how it is read, its words, its unit. */
interface Figure {
  name: string;
  unit: string;
  get: (s: StyleBody) => number;
  set: (s: StyleBody, v: number) => StyleBody;
}

const FIGURES: readonly Figure[] = [
  { name: "dough for one", unit: "g", get: (s) => s.mass_g, set: (s, mass_g) => ({ ...s, mass_g }) },
  {
    name: "size across",
    unit: "cm",
    get: (s) => s.diameter_cm,
    set: (s, diameter_cm) => ({ ...s, diameter_cm }),
  },
  { name: "water", unit: "%", get: (s) => s.hydration_pct, set: (s, v) => ({ ...s, hydration_pct: v }) },
  { name: "oil", unit: "%", get: (s) => s.oil_pct ?? 0, set: (s, oil_pct) => ({ ...s, oil_pct }) },
  { name: "sugar", unit: "%", get: (s) => s.sugar_pct ?? 0, set: (s, sugar_pct) => ({ ...s, sugar_pct }) },
  {
    name: "topping",
    unit: "g/cm²",
    get: (s) => s.topping_g_cm2,
    set: (s, topping_g_cm2) => ({ ...s, topping_g_cm2 }),
  },
  {
    name: "base, L*",
    unit: "",
    get: (s) => s.target.base,
    set: (s, v) => ({ ...s, target: { ...s.target, base: v } }),
  },
  {
    name: "rim, L*",
    unit: "",
    get: (s) => s.target.rim,
    set: (s, v) => ({ ...s, target: { ...s.target, rim: v } }),
  },
  {
    name: "bake from",
    unit: "min",
    get: (s) => (s.bake_s[0] ?? 300) / 60,
    set: (s, v) => ({ ...s, bake_s: [v * 60, s.bake_s[1] ?? 600] }),
  },
  {
    name: "bake to",
    unit: "min",
    get: (s) => (s.bake_s[1] ?? 600) / 60,
    set: (s, v) => ({ ...s, bake_s: [s.bake_s[0] ?? 300, v * 60] }),
  },
];

/** A style's figures: a known one to copy, one's own to change. */
export function StylePanel({ style }: { style: StyleLine }) {
  const units = useUnits();
  const queries = useQueryClient();
  const styles = useStyles();
  const offerUndo = useUndo();
  const own = styles.data?.own.find((o) => o.id === style.ownId);
  const body: StyleBody | undefined = own?.style ?? styles.data?.known.find((k) => k.key === style.key);
  const [edited, setEdited] = useState<StyleBody | null>(null);
  const [texts, setTexts] = useState<Record<string, string>>({});
  const again = async () => {
    setEdited(null);
    setTexts({});
    await queries.invalidateQueries({ queryKey: server.styles.queryKey });
    await queries.invalidateQueries({ queryKey: server.match.queryKey });
  };
  const asBody = (s: StyleBody) => s as unknown as Schemas["Style"];
  const keeping = useMutation({
    mutationFn: async (s: StyleBody): Promise<unknown> =>
      own
        ? answer(
            client.PUT("/api/styles/{style_id}", {
              params: { path: { style_id: own.id }, query: { version: own.version } },
              body: asBody({ ...s, key: "own" }),
            }),
          )
        : answer(client.POST("/api/styles", { body: asBody({ ...s, key: "own" }) })),
    onSuccess: again,
  });
  const retiring = useMutation({
    mutationFn: ({ id, version }: { id: number; version: number }) =>
      answer(
        client.DELETE("/api/styles/{style_id}", { params: { path: { style_id: id }, query: { version } } }),
      ),
    onSuccess: async (_, { id }) => {
      offerUndo({
        text: `${style.name} is retired; saved plans keep it.`,
        undo: () => {
          void answer(
            client.POST("/api/styles/{style_id}/restore", { params: { path: { style_id: id } } }),
          ).then(again);
        },
      });
      await again();
    },
  });
  if (!body) return null;
  const link = "text-[13px] text-air underline underline-offset-2";
  if (!edited)
    return (
      <p className="flex gap-4">
        <button
          type="button"
          className={link}
          onClick={() => {
            setEdited(own ? body : { ...body, name: `my ${body.name}`.slice(0, 60) });
          }}
        >
          {own ? "change this style" : "make a style of my own from this"}
        </button>
        {own ? (
          <button
            type="button"
            className={link}
            onClick={() => {
              retiring.mutate({ id: own.id, version: own.version });
            }}
          >
            retire it
          </button>
        ) : null}
      </p>
    );
  const wrong = Object.values(texts).some((typed) => !isNumber(typed));
  return (
    <form
      aria-label="A style of your own"
      className="grid gap-1.5 border-t border-line pt-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!wrong) keeping.mutate(edited);
      }}
    >
      <input
        aria-label="name of the style"
        className="field px-2 py-1 font-semibold"
        maxLength={60}
        value={edited.name}
        onChange={(e) => {
          setEdited({ ...edited, name: e.target.value });
        }}
      />
      {FIGURES.map((f) => {
        const shown = texts[f.name] ?? String(Math.round(f.get(edited) * 1000) / 1000);
        return (
          <label key={f.name} className="flex items-baseline justify-between gap-2">
            <span className="text-ash">{f.name}</span>
            <span>
              <NumberInput
                label={f.name}
                className="field w-16 px-1 text-right"
                text={shown}
                said={!isNumber(shown)}
                onText={(typed) => {
                  setTexts({ ...texts, [f.name]: typed });
                  const v = numberIn(typed);
                  if (v !== null && !Number.isNaN(v)) setEdited(f.set(edited, v));
                }}
              />{" "}
              <span className="inline-block w-9 text-[12.5px]">{f.unit}</span>
            </span>
          </label>
        );
      })}
      {wrong ? (
        <p role="alert" className="text-brick">
          Give numbers.
        </p>
      ) : null}
      {keeping.error ? (
        <p role="alert" className="text-brick">
          {units.say(keeping.error.message)}
        </p>
      ) : null}
      <p className="flex gap-2">
        <Button type="submit" look="press" className="!py-1" disabled={wrong || keeping.isPending}>
          Keep
        </Button>
        <Button
          onClick={() => {
            setEdited(null);
            setTexts({});
            keeping.reset();
          }}
        >
          Leave it
        </Button>
      </p>
    </form>
  );
}
