import { day, dayAndClock, minuteOf } from "../../ui/time";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, Refusal, type Schemas } from "../../api/client";
import { readSupper } from "../../api/saved";
import { useOutbox } from "../../app/useOutbox";
import { useUndo } from "../../app/Undo";
import { useShortcut } from "../../app/useShortcut";
import { Conflict } from "../../ui/Conflict";
import { ClockField } from "../../ui/ClockField";
import { Figure } from "../../ui/Figure";
import { Picker } from "../../ui/Picker";
import { useKeptDraft } from "../../ui/useKept";
import { useLast } from "../../ui/useLast";
import { useNow } from "../../ui/useNow";
import { NameAndSave } from "../../ui/NameAndSave";
import { useUnits } from "../../ui/units";
import type { DoughReference } from "../dough/types";
import { Agenda } from "./Agenda";
import { Conditions } from "./Conditions";
import { Ribbon } from "./Ribbon";
import { SupperSheet } from "./SupperSheet";
import { ToppingsPanel } from "./ToppingsPanel";
import type { PlacedStep, SavedSupper, SupperDraft, Told, Words } from "./types";
import { DoseLine } from "./DoseLine";
import { Offers } from "./Offers";
import { ListsPanel, Side } from "./Side";
import { SuppersMenu } from "./SuppersMenu";
import { asQuestion, useSupper } from "./useSupper";

export function SupperDesk({
  owner,
  things,
  doughs,
  plans,
  saved,
  start,
  place,
}: {
  owner: string;
  things: DoughReference;
  doughs: readonly Schemas["DoughLine"][];
  plans: readonly Schemas["PlanLine"][];
  saved: SavedSupper | null;
  start: Words;
  place: string;
}) {
  const units = useUnits();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { draft, touched, change, putAway, leave, version } = useKeptDraft<SupperDraft>(
    `supper ${owner} ${place}`,
    { name: saved?.name ?? "", words: start },
    saved?.version ?? null,
  );
  const offerUndo = useUndo();
  const words = draft.words;
  const say = (to: Partial<Words>) => {
    change((was) => ({ ...was, words: { ...was.words, ...to } }));
  };
  /** The same words, laid out anew. */
  const layOut = () => {
    change((was) => ({ ...was }));
  };
  // A saved supper nobody has touched is shown as it was stored, not laid out again.
  const untouched = saved !== null && !touched;
  const [dragging, setDragging] = useState(false);
  const asked = useSupper(untouched ? null : words, dragging);
  const told: Told | null = untouched ? saved.told : asked.told;
  // An impossible wish leaves the last possible days in sight.
  const lastGood = useLast(
    told?.result.feasible && !asked.refusal ? told : null,
    saved?.told.result.feasible ? saved.told : null,
  );
  const now = useNow(20);
  const refusal = asked.refusal ? { path: asked.refusal.path, text: units.say(asked.refusal.message) } : null;
  const result = told?.result ?? null;
  const impossible = !refusal && result !== null && !result.feasible;
  const shown = refusal || impossible ? lastGood : (told ?? lastGood);
  const defaultName = `Supper for ${String(words.pizzas ?? 4)}`;
  const title = draft.name || defaultName;

  const saveAs = async ({ as, over }: { as: SupperDraft; over: { id: number; version: number } | null }) => {
    const body = { ...asQuestion(as.words), name: as.name || defaultName };
    const row = over
      ? await answer(
          client.PUT("/api/timeline/{supper_id}", {
            params: { path: { supper_id: over.id }, query: { version: over.version } },
            body,
          }),
        )
      : await answer(client.POST("/api/timeline", { body }));
    if (saved) putAway();
    else leave();
    settle(row);
    return row;
  };
  const settle = (row: SavedSupper) => {
    queries.setQueryData(["supper", row.id], row);
    for (const key of ["suppers", "next-step", "doughs", "dough"])
      void queries.invalidateQueries({ queryKey: [key] });
  };
  const save = useMutation({
    mutationFn: saveAs,
    onSuccess: (row) => {
      void navigate(`/timeline/${String(row.id)}`);
    },
  });
  const outbox = useOutbox();
  const [untold, setUntold] = useState<ReadonlySet<string>>(new Set());
  const done = useMutation({
    // Kept on this device first: a server that is away is told when it is back.
    mutationFn: async (step: string) => {
      const id = saved?.id ?? 0;
      const outcome = await outbox.happened("supper.done", id, { step });
      if (outcome?.state === "refused") throw new Refusal(422, "step", outcome.message ?? "");
      return outcome === null ? null : readSupper(id);
    },
    onSuccess: (row, step) => {
      if (row) settle(row);
      else setUntold((was) => new Set([...was, step]));
    },
  });
  const doSave = () => {
    if (!save.isPending && !refusal && !untouched) save.mutate(mineOver());
  };
  /** This draft over what it began from: whatever came after is not overwritten unseen. */
  const mineOver = () => ({
    as: draft,
    over: saved ? { id: saved.id, version: version ?? saved.version } : null,
  });
  const clash = save.error instanceof Refusal && save.error.conflict ? (save.error.now as SavedSupper) : null;
  const theirs = clash ?? (saved && touched && version !== null && saved.version !== version ? saved : null);
  useShortcut(["s"], (_, e) => {
    e.preventDefault();
    doSave();
  });
  // A calendar is made of what is saved: what is not yet is saved first.
  const intoCalendar = async () => {
    const row = untouched ? saved : await save.mutateAsync(mineOver()).catch(() => null);
    if (row) window.location.assign(`/api/timeline/${String(row.id)}/calendar.ics`);
  };
  const localNow = () => nowIn(words.time_zone ?? "UTC");
  const fixed = words.fixed ?? [];
  const fix = (step: string, at: string, isDone: boolean) => {
    say({ fixed: [...fixed.filter((f) => f.step !== step), { step, at: at.slice(0, 16), done: isDone }] });
  };
  const free = (step: string) => {
    say({ fixed: fixed.filter((f) => f.step !== step) });
  };
  const markDone = (step: PlacedStep) => {
    if (untouched) done.mutate(step.key);
    else fix(step.key, localNow(), true);
  };
  const overdue = (shown?.result.steps ?? []).filter(
    (s) =>
      !s.done &&
      (s.lane === "dough" || s.lane === "hands") &&
      !s.key.startsWith("shape") &&
      minuteOf(shown?.result.serve_at ?? "") > now &&
      minuteOf(s.ends) < now - 10,
  );
  const asPlanned = () => {
    say({
      fixed: [
        ...fixed.filter((f) => !overdue.some((s) => s.key === f.step)),
        ...overdue.map((s) => ({ step: s.key, at: s.at.slice(0, 16), done: true })),
      ],
    });
  };
  const programmes = [
    ...things.programmes.map((p) => ({ value: p.key, label: p.name, note: p.about })),
    ...(words.dough_id != null
      ? [{ value: "own", label: "as in the dough", note: "the hours set on its curve" }]
      : []),
  ];
  const mixed = fixed.some((f) => f.step === "mix" && f.done);
  const wantsDose =
    told && !mixed && told.dough_yeast_pct != null && told.result.feasible
      ? Math.abs(told.result.yeast_pct / told.dough_yeast_pct - 1) > 0.06
      : false;
  const afterDough = () => {
    void queries.invalidateQueries({ queryKey: ["dough"] });
    void queries.invalidateQueries({ queryKey: ["supper-preview"] });
    // The stored answer knows nothing of it: lay the days out again.
    layOut();
  };
  const stale = dragging || asked.stale || done.isPending;
  const problem = clash ? null : (save.error ?? done.error);
  return (
    <main className="flex flex-col gap-2.5 px-5 py-3.5 print:p-0" data-played={stale ? "old" : "now"}>
      <header className="grid gap-3 md:grid-cols-[1fr_auto] print:hidden">
        <div>
          <h1 className="sr-only">Timeline</h1>
          <p className="font-display text-[23px] leading-snug" id="sentence" tabIndex={-1}>
            First pizza at{" "}
            <ClockField
              label="First pizza on the table at"
              value={words.serve_at.slice(11, 16)}
              onChange={(time) => {
                say({ serve_at: `${words.serve_at.slice(0, 10)}T${time}` });
              }}
            />{" "}
            on{" "}
            <Picker
              label="day"
              shown={dayName(words.serve_at)}
              value={words.serve_at.slice(0, 10)}
              choices={daysToChoose(words.serve_at, words.time_zone ?? "UTC")}
              onPick={(date) => {
                say({ serve_at: `${date}T${words.serve_at.slice(11, 16)}` });
              }}
            />
            ,{" "}
            <Figure
              label="How many pizzas"
              value={words.pizzas ?? 4}
              digits={0}
              step={1}
              wide="w-9 font-bold !border-brick !border-b-[2.5px]"
              problem={refusal?.path === "pizzas" ? refusal.text : undefined}
              bounds={[1, 12]}
              onChange={(value) => {
                say({ pizzas: Math.max(1, Math.min(12, Math.round(value))) });
              }}
            />{" "}
            of{" "}
            <Picker
              label="dough"
              shown={
                (told ?? lastGood)?.names.dough ?? (words.dough_id == null ? "a usual dough" : "the dough")
              }
              value={words.dough_id ?? 0}
              choices={[
                { value: 0, label: "a usual dough", note: "the style's own" },
                ...doughs.map((d) => ({ value: d.id, label: d.name, note: `${String(d.pieces)} pieces` })),
              ]}
              onPick={(id) => {
                const dough = doughs.find((d) => d.id === id);
                say({
                  dough_id: dough?.id ?? null,
                  pizzas: dough ? Math.min(12, dough.pieces) : (words.pizzas ?? 4),
                  programme: !dough && words.programme === "own" ? "cold_1" : (words.programme ?? "cold_1"),
                });
              }}
            />
            ,{" "}
            <Picker
              label="programme"
              shown={programmes.find((p) => p.value === words.programme)?.label ?? "a day in the fridge"}
              value={words.programme ?? "cold_1"}
              choices={programmes}
              onPick={(key) => {
                say({ programme: key as Words["programme"], yeast_pct: null });
              }}
            />
            , baked by{" "}
            <Picker
              label="plan"
              shown={(told ?? lastGood)?.names.plan ?? (words.plan_id == null ? "no plan yet" : "the plan")}
              value={words.plan_id ?? 0}
              choices={[
                { value: 0, label: "no plan yet", note: "45 min to heat, 7 min a pizza" },
                ...plans.map((p) => ({ value: p.id, label: p.name, note: p.support })),
              ]}
              onPick={(id) => {
                say({ plan_id: id || null });
              }}
            />
            .
          </p>
          {refusal ? (
            <p role="alert" className="mt-1 border-l-2 border-brick pl-2 font-semibold text-brick">
              {refusal.text}{" "}
              <span className="font-normal text-ash">What is shown is the last that went.</span>
            </p>
          ) : null}
          {told && !impossible && !refusal ? (
            <DoseLine
              told={told}
              words={words}
              wants={wantsDose}
              mixed={mixed}
              onWords={say}
              onDosed={afterDough}
              onSeen={afterDough}
            />
          ) : null}
        </div>
        <div className="grid content-start justify-items-start gap-1 md:justify-items-end">
          <NameAndSave
            label="Name of the supper"
            name={draft.name}
            usual={defaultName}
            saved={untouched}
            held={save.isPending || refusal !== null}
            onName={(name) => {
              change((was) => ({ ...was, name }));
            }}
            onSave={doSave}
          >
            <SuppersMenu openId={saved?.id ?? null} />
          </NameAndSave>
          <div className="flex flex-wrap gap-x-3 text-[13px] text-air md:justify-end">
            {touched ? (
              <button
                type="button"
                className="underline underline-offset-2"
                onClick={() => {
                  putAway();
                }}
              >
                {saved ? "back to it as saved" : "begin again"}
              </button>
            ) : null}
            <button
              type="button"
              className="underline underline-offset-2"
              onClick={() => {
                window.print();
              }}
            >
              print the sheets
            </button>
            <button
              type="button"
              className="underline underline-offset-2 disabled:text-ash disabled:no-underline"
              disabled={!result?.feasible || refusal !== null || save.isPending}
              onClick={() => {
                void intoCalendar();
              }}
            >
              into the calendar
            </button>
          </div>
          {problem ? (
            <p role="alert" className="max-w-80 text-brick">
              {units.say(problem.message)}
            </p>
          ) : null}
        </div>
      </header>
      {theirs ? (
        <Conflict
          noun="supper"
          mine={{ name: title, ...words }}
          theirs={{ name: theirs.name, ...theirs.words }}
          busy={save.isPending}
          onBoth={() => {
            save.mutate(
              { as: { ...draft, name: `${title}, mine`.slice(0, 80) }, over: null },
              {
                onSuccess: () => {
                  save.reset();
                  settle(theirs);
                },
              },
            );
          }}
          onMine={() => {
            const body = {
              ...asQuestion(theirs.words as Words),
              name: `${theirs.name}, the other`.slice(0, 80),
            };
            void answer(client.POST("/api/timeline", { body })).then(() => {
              save.mutate({ as: draft, over: { id: theirs.id, version: theirs.version } });
            });
          }}
          onTheirs={() => {
            const mine = draft;
            putAway();
            save.reset();
            settle(theirs);
            offerUndo({
              text: "What you had changed is put aside.",
              undo: () => {
                change(() => mine);
              },
            });
          }}
        />
      ) : null}
      {impossible ? (
        <Offers
          result={result}
          fixed={fixed}
          nameOf={(step) => shown?.result.steps.find((s) => s.key === step)?.name ?? step}
          onFree={free}
          onTake={(changes) => {
            say(taken(changes));
          }}
        />
      ) : null}
      {overdue.length > 0 && !impossible && !refusal ? (
        <p
          role="status"
          className="flex flex-wrap items-baseline gap-3 border-l-2 border-brick pl-2 print:hidden"
        >
          <span className="font-semibold">
            {overdue.map((s) => `${s.name}, ${dayAndClock(s.at)}`).join("; ")}: was it done?
          </span>
          <button type="button" className="quiet" onClick={asPlanned}>
            Done as planned
          </button>
          <button type="button" className="quiet" onClick={layOut}>
            Not yet: lay it out again from now
          </button>
        </p>
      ) : null}
      {shown ? (
        <section className="on-paper grid gap-2.5">
          <div className="hidden print:block">
            <h1 className="text-[20pt] font-bold">{title}</h1>
            <p>
              {shown.names.dough ?? shown.names.style}, first pizza {dayAndClock(shown.result.serve_at)}
            </p>
          </div>
          <div className="grid min-w-0 gap-2.5 max-md:order-2 print:order-none">
            {(spanHours(shown) > 9 ? (["days", "evening"] as const) : (["evening"] as const)).map((zoom) => (
              <section
                key={zoom}
                aria-label={zoom === "days" ? "The days before" : "The hours around the table"}
                className="min-w-0 bg-panel px-4 py-2"
              >
                <Ribbon
                  result={shown.result}
                  zoom={zoom}
                  nowMin={now}
                  faded={shown !== told}
                  onMove={(step, at) => {
                    fix(step.key, at, false);
                  }}
                  onServe={(at) => {
                    say({ serve_at: at });
                  }}
                  onDrag={setDragging}
                />
              </section>
            ))}
          </div>
          <div className="grid min-w-0 gap-2.5 max-md:order-1 md:grid-cols-[1fr_24rem] print:hidden">
            <section aria-label="The steps" className="min-w-0 bg-panel p-4 pt-2">
              <Agenda
                result={shown.result}
                nowMin={now}
                busy={done.isPending}
                waiting={untold}
                onDone={markDone}
                onPin={(step) => {
                  fix(step.key, step.at, false);
                }}
                onFree={(step) => {
                  free(step.key);
                }}
              />
            </section>
            <Side
              conditions={<Conditions words={words} result={shown.result} problem={refusal} onWords={say} />}
              toppings={<ToppingsPanel words={words} told={shown} things={things} onWords={say} />}
              lists={<ListsPanel told={shown} />}
            />
          </div>
          <SupperSheet told={shown} title={title} />
        </section>
      ) : refusal || impossible ? (
        <section className="max-w-xl bg-panel p-4">
          <Conditions words={words} result={null} problem={refusal} onWords={say} />
        </section>
      ) : (
        <div className="h-96 bg-panel waiting" aria-busy="true" />
      )}
    </main>
  );
}

/** Hours from the first step to serving. */
function spanHours(told: Told): number {
  return (minuteOf(told.result.serve_at) - Math.min(...told.result.steps.map((s) => minuteOf(s.at)))) / 60;
}

const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");

/** Sat 28 Nov. */
function dayName(at: string): string {
  return `${day(at)} ${String(Number(at.slice(8, 10)))} ${MONTHS[Number(at.slice(5, 7)) - 1] ?? ""}`;
}

/** The days a supper can be on: from today as far as it can be planned, and the one it is on. */
function daysToChoose(at: string, zone: string) {
  const today = nowIn(zone).slice(0, 10);
  const dates = Array.from({ length: 9 }, (_, i) =>
    new Date(Date.parse(`${today}T12:00:00Z`) + i * 86_400_000).toISOString().slice(0, 10),
  );
  if (!dates.includes(at.slice(0, 10))) dates.unshift(at.slice(0, 10));
  return dates.map((date) => ({
    value: date,
    label: dayName(date),
    ...(date === today ? { note: "today" } : {}),
  }));
}

/** The local time now in a zone, as a date-and-time field has it. */
function nowIn(zone: string): string {
  return new Date().toLocaleString("sv-SE", { timeZone: zone }).replace(" ", "T").slice(0, 16);
}

/** An offer's changes in the supper's own words. */
function taken(changes: Record<string, string | boolean | number | null>): Partial<Words> {
  const to: Record<string, string | boolean | number | null> = {};
  for (const [key, value] of Object.entries(changes)) {
    if (key === "own_steps") continue;
    to[key] = key === "serve_at" && typeof value === "string" ? value.slice(0, 16) : value;
    if (key === "yeast_pct") to.yeast = "solve";
  }
  return to as Partial<Words>;
}
