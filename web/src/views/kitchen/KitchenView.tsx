import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useUndo } from "../../app/Undo";
import { hearthKind, type Kinds } from "../../ui/kinds";
import { useReference } from "../../ui/styles";
import { useUnits } from "../../ui/units";
import { OrdinaryKitchen } from "../plan/EmptyKitchen";
import { CalibratePanel } from "./CalibratePanel";
import { EditPanel } from "./EditPanel";
import { LivePanel } from "./LivePanel";
import { TakeAlong } from "./TakeAlong";
import { ThingDrawing } from "./ThingDrawing";
import {
  add,
  bringBack,
  change,
  NOUNS,
  retire,
  valuesOf,
  type Hearth,
  type Kitchen,
  type Noun,
  type Instrument,
  type Surface,
  type Thing,
  type Values,
} from "./things";

interface Chosen {
  noun: Noun;
  id: number;
}

/** Everything the cook owns, drawn to one scale; add, change, duplicate, retire. */
export function KitchenView() {
  const units = useUnits();
  const queries = useQueryClient();
  const offerUndo = useUndo();
  const kitchen = useQuery({ queryKey: ["kitchen"], queryFn: () => answer(client.GET("/api/kitchen")) });
  const catalogue = useQuery({
    queryKey: ["catalogue"],
    queryFn: () => answer(client.GET("/api/kitchen/catalogue")),
    staleTime: Infinity,
  });
  const reference = useReference();
  const [chosen, setChosen] = useState<Chosen | null>(null);
  // The version the open form's edits began from; null: untouched, it follows what is saved.
  const [began, setBegan] = useState<number | null>(null);
  const again = async () => {
    await queries.invalidateQueries({ queryKey: ["kitchen"] });
    await queries.invalidateQueries({ queryKey: ["match"] });
  };
  const adding = useMutation({
    mutationFn: ({ noun, values }: { noun: Noun; values: Values }) => add(noun, values),
    onSuccess: async (made, { noun }) => {
      await again();
      setChosen({ noun, id: made.id });
    },
  });
  const changing = useMutation({
    mutationFn: ({ noun, id, values, version }: Chosen & { values: Values; version: number }) =>
      change(noun, id, values, version),
    onSuccess: again,
  });
  const retiring = useMutation({
    mutationFn: ({ noun, id, version }: Chosen & { name: string; version: number }) =>
      retire(noun, id, version),
    onSuccess: async (_, { noun, id, name }) => {
      setChosen(null);
      await again();
      offerUndo({
        text: `${name} is retired; saved plans keep it.`,
        undo: () => {
          void bringBack(noun, id).then(again);
        },
      });
    },
  });
  const settled = () => {
    setBegan(null);
    changing.reset();
  };
  const trouble = kitchen.error ?? reference.error;
  if (trouble)
    return (
      <main className="grid gap-3 p-8">
        <p role="alert">{trouble.message}</p>
        <button
          type="button"
          className="press w-fit"
          onClick={() => {
            void kitchen.refetch();
            reference.refetch();
          }}
        >
          Try again
        </button>
      </main>
    );
  if (!kitchen.data || !reference.data)
    return (
      <main aria-busy="true" aria-label="Loading the kitchen" className="grid gap-3 p-6 waiting">
        <div className="h-40 bg-panel" />
        <div className="h-40 bg-panel" />
      </main>
    );
  const data = kitchen.data;
  const kinds = reference.data.reference.kinds;
  const empty = data.hearths.length + data.surfaces.length + data.pans.length === 0;
  const things = (noun: Noun): Thing[] => data[noun];
  const open = chosen ? things(chosen.noun).find((t) => t.id === chosen.id) : undefined;
  return (
    <main className="grid gap-6 px-6 py-4 lg:grid-cols-[1fr_290px]">
      <div className="grid content-start gap-2.5">
        <header>
          <h1 className="text-[28px] leading-tight font-bold">{data.name}</h1>
          <p className="text-ash">
            Everything you bake with, drawn to one scale. Choose a thing to change it.{" "}
            <Altitude kitchen={data} onDone={again} />
          </p>
          <TakeAlong onDone={again} />
        </header>
        {empty ? (
          <section aria-label="A first step" className="grid justify-items-start gap-3 bg-panel p-4">
            <p className="max-w-xl text-base">
              Nothing here yet. Add what you own below, beginning with a hearth; or begin with an ordinary
              oven, a steel, a stone and a thin tray, and change them.
            </p>
            <OrdinaryKitchen />
          </section>
        ) : null}
        {NOUNS.map(([noun, title, one]) => (
          <section key={noun} aria-label={title}>
            <div className="flex items-baseline gap-3 border-b border-line pb-1">
              <h2 className="text-[17px] font-bold">{title}</h2>
              <Popover.Root>
                <Popover.Trigger className="quiet">
                  Add {/^[aeiou]/.test(one) ? "an" : "a"} {one}
                </Popover.Trigger>
                <Popover.Portal>
                  <Popover.Content
                    align="start"
                    sideOffset={4}
                    aria-label={`Add a ${one}`}
                    className="leaf z-20 grid w-64 p-2"
                  >
                    {(catalogue.data?.[noun] ?? []).map((values) => (
                      <Popover.Close
                        key={values.name}
                        className="px-3 py-1.5 text-left hover:bg-brick-wash"
                        onClick={() => {
                          adding.mutate({ noun, values });
                        }}
                      >
                        {values.name}
                      </Popover.Close>
                    ))}
                  </Popover.Content>
                </Popover.Portal>
              </Popover.Root>
            </div>
            <ul className="flex flex-wrap items-end gap-x-2 gap-y-1">
              {things(noun).map((thing) => {
                const here = chosen?.noun === noun && chosen.id === thing.id;
                const notes = data.notes.filter((n) => n.noun === noun && n.id === thing.id);
                return (
                  <li key={thing.id}>
                    <button
                      type="button"
                      data-thing={thing.name}
                      aria-pressed={here}
                      className={`grid justify-items-start gap-1 p-2 text-left ${here ? "bg-panel shadow-[inset_0_0_0_2.5px_var(--brick)]" : "hover:bg-panel"}`}
                      onClick={() => {
                        setChosen({ noun, id: thing.id });
                        settled();
                      }}
                    >
                      <ThingDrawing noun={noun} values={valuesOf(noun, thing)} />
                      <span className="font-semibold">{thing.name}</span>
                      <span className="text-[12.5px] leading-tight text-ash">
                        {about(noun, thing, kinds, units)}
                      </span>
                      {notes.map((n) => (
                        <span
                          key={n.text}
                          className="max-w-52 text-[12.5px] leading-tight font-semibold text-brick"
                        >
                          {units.say(n.text)}
                        </span>
                      ))}
                    </button>
                  </li>
                );
              })}
              {things(noun).length === 0 ? <li className="py-3 text-ash">None yet; add one.</li> : null}
            </ul>
          </section>
        ))}
        {adding.error ? (
          <p role="alert" className="text-brick">
            {adding.error.message}
          </p>
        ) : null}
      </div>
      <aside className="grid content-start gap-4 bg-panel p-4">
        {chosen && open ? (
          <EditPanel
            key={`${chosen.noun}${String(chosen.id)}.${String(began ?? open.version)}`}
            noun={chosen.noun}
            kinds={kinds}
            values={valuesOf(chosen.noun, open)}
            busy={changing.isPending}
            problem={changing.error}
            onTouch={() => {
              setBegan(began ?? open.version);
            }}
            onBoth={(mine) => {
              const values = { ...mine, name: `${mine.name}, mine`.slice(0, 60) };
              adding.mutate({ noun: chosen.noun, values }, { onSuccess: settled });
            }}
            onMine={(mine, theirs) => {
              const other = valuesOf(chosen.noun, theirs);
              void add(chosen.noun, { ...other, name: `${other.name}, the other`.slice(0, 60) }).then(() => {
                changing.mutate({ ...chosen, values: mine, version: theirs.version }, { onSuccess: settled });
              });
            }}
            onTheirs={(mine) => {
              settled();
              void again();
              offerUndo({
                text: "What you had changed is put aside.",
                undo: () => {
                  adding.mutate({
                    noun: chosen.noun,
                    values: { ...mine, name: `${mine.name}, mine`.slice(0, 60) },
                  });
                },
              });
            }}
            onSave={(values) => {
              changing.mutate({ ...chosen, values, version: began ?? open.version }, { onSuccess: settled });
            }}
            onDuplicate={() => {
              const values = valuesOf(chosen.noun, open);
              adding.mutate({
                noun: chosen.noun,
                values: { ...values, name: `${values.name}, second`.slice(0, 60) },
              });
            }}
            onRetire={() => {
              retiring.mutate({ ...chosen, name: open.name, version: open.version });
            }}
          />
        ) : (
          <p className="text-ash">Choose a thing on the left, or add one, and its figures stand here.</p>
        )}
        {chosen?.noun === "instruments" && open && (open as Instrument).kind === "wireless" ? (
          <LivePanel key={open.id} instrument={open as Instrument} kitchen={data} kinds={kinds} />
        ) : null}
        {chosen?.noun === "hearths" && open && hearthKind(kinds, (open as Hearth).kind)?.heat === "dial" ? (
          <CalibratePanel key={open.id} hearth={open as Hearth} kitchen={data} />
        ) : null}
        {retiring.error ? (
          <p role="alert" className="mt-2 text-brick">
            {retiring.error.message}
          </p>
        ) : null}
      </aside>
    </main>
  );
}

function about(noun: Noun, thing: Thing, kinds: Kinds, units: ReturnType<typeof useUnits>): string {
  if (noun === "hearths") return aboutHearth(thing as Hearth, kinds, units);
  if (noun === "instruments") return USES[(thing as Instrument).kind] ?? "";
  return aboutSupport(thing as Surface, units);
}

const USES: Record<string, string> = {
  infrared: "reads the deck",
  oven_probe: "reads the air",
  instant_probe: "reads dough and crumb",
  scale: "weighs",
  wireless: "writes here by itself",
};

function aboutHearth(h: Hearth, kinds: Kinds, units: ReturnType<typeof useUnits>): string {
  const heat = hearthKind(kinds, h.kind)?.heat;
  if (heat === "burner") return `a burner of ${String(h.power_kw ?? 2)} kW, to start pans on`;
  if (heat === "fire") return `its floor to ${units.temp(h.max_setpoint_c ?? 400)}, outdoors`;
  const off = h.dial_error_k ?? 0;
  const lies =
    off === 0 ? "" : `, really ${units.tempDifference(Math.abs(off))} ${off < 0 ? "cooler" : "hotter"}`;
  const known = h.calibrated ? ", measured" : "";
  return `to ${units.temp(h.max_setpoint_c ?? 250)}${lies}${known}; ${String(h.levels ?? 5)} levels`;
}

function aboutSupport(s: Surface, units: ReturnType<typeof useUnits>): string {
  const weight =
    units.system === "us" ? `${(s.mass_kg * 2.2046).toFixed(1)} lb` : `${s.mass_kg.toFixed(1)} kg`;
  return `${units.size(s.width_cm)} by ${units.size(s.depth_cm)}, ${units.length(s.thickness_mm)}, ${weight}`;
}

/** Height above the sea: water boils cooler up there. */
function Altitude({ kitchen, onDone }: { kitchen: Kitchen; onDone: () => Promise<void> }) {
  const [text, setText] = useState<string | null>(null);
  const save = useMutation({
    mutationFn: (altitude_m: number) =>
      answer(
        client.PUT("/api/kitchen", {
          params: { query: { version: kitchen.version } },
          body: { name: kitchen.name, altitude_m },
        }),
      ),
    onSuccess: async () => {
      setText(null);
      await onDone();
    },
  });
  const shown = text ?? String(Math.round(kitchen.altitude_m));
  const number = Number(shown);
  const wrong = shown.trim() === "" || !(number >= -450 && number <= 5000);
  return (
    <label>
      It stands{" "}
      <input
        aria-label="metres above the sea"
        inputMode="numeric"
        aria-invalid={wrong || undefined}
        className="w-14 border-b border-ash bg-transparent text-center font-semibold text-soot"
        value={shown}
        onChange={(e) => {
          setText(e.target.value);
        }}
        onBlur={() => {
          if (!wrong && number !== kitchen.altitude_m && text !== null) save.mutate(number);
        }}
      />{" "}
      m above the sea.
      {wrong ? (
        <span role="alert" className="ml-2 text-brick">
          Give metres from −450 to 5000.
        </span>
      ) : null}
      {save.error ? (
        <span role="alert" className="ml-2 text-brick">
          {save.error.message}
        </span>
      ) : null}
    </label>
  );
}
