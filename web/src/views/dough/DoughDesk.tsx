import { hoursSaid } from "../../ui/time";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, client, Refusal, type Schemas } from "../../api/client";
import { useUndo } from "../../app/Undo";
import { useShortcut } from "../../app/useShortcut";
import { Conflict } from "../../ui/Conflict";
import type { Reference } from "../../ui/crust";
import { Picker } from "../../ui/Picker";
import type { StyleLine } from "../../ui/styles";
import { useUnits } from "../../ui/units";
import { useKeptDraft } from "../../ui/useKept";
import { useLast } from "../../ui/useLast";
import { useNow } from "../../ui/useNow";
import { Caution } from "../../ui/Caution";
import { NameAndSave } from "../../ui/NameAndSave";
import { BatchSheet } from "./BatchSheet";
import { FormulaPanel } from "./FormulaPanel";
import { MeasurePanel } from "./MeasurePanel";
import { OvenPanel } from "./OvenPanel";
import { PastePanel } from "./PastePanel";
import { PiecesPanel, PrefermentsPanel } from "./PiecesPanel";
import { RiseCurve, stageName } from "./RiseCurve";
import {
  asked,
  awaited,
  clockAt,
  type DoughDraft,
  type DoughInput,
  type DoughReference,
  type Kitchen,
  type SavedDough,
} from "./types";
import { useBatch } from "./useBatch";
import { WaterPanel } from "./WaterPanel";
import { DoughsMenu } from "./DoughsMenu";
import { SeenRow } from "./SeenRow";
import { WriteMenu } from "./WriteMenu";

/** A draft as the server takes it. */
function bodyOf(as: DoughDraft, usual: string) {
  return { name: as.name || usual, dough: asked(as.dough), plan_id: as.planId, mixed_at: as.mixedAt };
}

export function DoughDesk({
  owner,
  reference,
  styles,
  things,
  kitchen,
  plans,
  saved,
  start,
  planId,
}: {
  owner: string;
  reference: Reference;
  styles: readonly StyleLine[];
  things: DoughReference;
  kitchen: Kitchen;
  plans: readonly Schemas["PlanLine"][];
  saved: SavedDough | null;
  start: DoughInput;
  planId: number | null;
}) {
  const units = useUnits();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const first: DoughDraft = saved
    ? { name: saved.name, dough: saved.dough, planId: saved.plan_id, mixedAt: saved.mixed_at }
    : { name: "", dough: start, planId, mixedAt: null };
  const { draft, touched, change, putAway, leave, version } = useKeptDraft(
    `dough ${owner} ${saved ? String(saved.id) : `new ${String(planId ?? "")}`}`,
    first,
    saved?.version ?? null,
  );
  const offerUndo = useUndo();
  const put = (to: Partial<DoughDraft>) => {
    change((was) => ({ ...was, ...to }));
  };
  const batch = useBatch(draft.dough, (dough) => {
    put({ dough });
  });
  // A refusal leaves the last answer standing.
  const told = useLast(batch.told);
  const [dragging, setDragging] = useState(false);
  const [hold, setHold] = useState<"dough" | "flour">("flour");
  const base = useRef(draft.dough);
  const nowMin = useNow(30);
  const rework = (dough: DoughInput) => {
    batch.forget();
    put({ dough });
  };
  const style =
    styles.find(
      (s) => s.ownId === null && s.key === draft.dough.formula.style && !draft.dough.formula.own_style,
    ) ?? styles.find((s) => s.key === draft.dough.formula.own_style?.key);
  const pieces = draft.dough.formula.pieces.reduce((sum, p) => sum + (p.count ?? 1), 0);
  const defaultName = `${style?.name ?? "Dough"} for ${String(pieces)}`;
  const save = useMutation({
    mutationFn: ({ as, over }: { as: DoughDraft; over: { id: number; version: number } | null }) => {
      const body = bodyOf(as, defaultName);
      return over
        ? answer(
            client.PUT("/api/dough/{dough_id}", {
              params: { path: { dough_id: over.id }, query: { version: over.version } },
              body,
            }),
          )
        : answer(client.POST("/api/dough", { body }));
    },
    onSuccess: (dough) => {
      if (saved) putAway();
      else leave();
      queries.setQueryData(["dough", dough.id], dough);
      void queries.invalidateQueries({ queryKey: ["doughs"] });
      void navigate(`/dough/${String(dough.id)}`);
    },
  });
  const untouched = saved !== null && !touched;
  const doSave = () => {
    // What the draft began from: whatever came after it is not overwritten unseen.
    if (!save.isPending && !batch.refusal && !untouched)
      save.mutate({ as: draft, over: saved ? { id: saved.id, version: version ?? saved.version } : null });
  };
  const clash = save.error instanceof Refusal && save.error.conflict ? (save.error.now as SavedDough) : null;
  const theirs = clash ?? (saved && touched && version !== null && saved.version !== version ? saved : null);
  const resolved = (dough: SavedDough) => {
    save.reset();
    queries.setQueryData(["dough", dough.id], dough);
    void queries.invalidateQueries({ queryKey: ["doughs"] });
  };
  useShortcut(["s"], (_, e) => {
    e.preventDefault();
    doSave();
  });
  const mixedAt = draft.mixedAt ? new Date(draft.mixedAt) : null;
  // Not mixed yet, but planned for a supper: the curve goes by that clock.
  const plannedAt = saved?.planned_at ? new Date(saved.planned_at) : null;
  const clockFrom = mixedAt ?? plannedAt;
  const nowH = mixedAt ? nowMin / 60 - mixedAt.getTime() / 3_600_000 : null;
  const total = draft.dough.steps.reduce((sum, s) => sum + s.hours, 0);
  const programme = things.programmes.find(
    (p) =>
      p.steps.length === draft.dough.steps.length &&
      p.steps.every((h, i) => {
        const s = draft.dough.steps[i];
        return s?.place === h.place && Math.abs(s.hours - h.hours) < 0.01;
      }),
  );
  const pickProgramme = (key: string) => {
    const next = things.programmes.find((p) => p.key === key);
    if (!next) return;
    const steps = style?.shape === "pan" ? next.steps_in_pan : next.steps;
    void batch.ask("programme", { dough: { ...draft.dough, steps }, solve: "yeast" });
  };
  const stale = dragging || batch.stale;
  if (!told)
    return (
      <main className="grid gap-4 p-5">
        <h1 className="font-display text-2xl font-bold">Dough</h1>
        {batch.refusal ? (
          <p role="alert" className="text-brick">
            {units.say(batch.refusal.message)}{" "}
            <button
              type="button"
              className="underline"
              onClick={() => {
                putAway();
              }}
            >
              Begin again
            </button>
          </p>
        ) : (
          <div className="h-96 bg-panel waiting" aria-busy="true" />
        )}
      </main>
    );
  const { rise } = told;
  const at = (hours: number) =>
    clockFrom ? clockAt(new Date(clockFrom.getTime() + hours * 3_600_000), total > 20) : hoursSaid(hours);
  const seen = draft.dough.seen ?? [];
  return (
    <main className="flex flex-col gap-2.5 px-5 py-3.5 md:min-h-full" data-played={stale ? "old" : "now"}>
      <header className="grid gap-3 md:grid-cols-[1fr_auto] print:hidden">
        <div>
          <h1 className="sr-only">Dough</h1>
          <p className="font-display text-[23px] leading-snug" id="sentence" tabIndex={-1}>
            Dough for{" "}
            <Picker
              label="style"
              shown={style?.name ?? draft.dough.formula.own_style?.name ?? "a style"}
              value={draft.dough.formula.style ?? "home_oven_round"}
              choices={styles
                .filter((s) => s.ownId === null)
                .map((s) => ({ value: s.key, label: s.name, note: s.about }))}
              onPick={(key) => {
                rework({
                  ...draft.dough,
                  formula: {
                    ...draft.dough.formula,
                    style: key as NonNullable<DoughInput["formula"]["style"]>,
                    own_style: null,
                  },
                });
              }}
            />
            : <PiecesPanel dough={draft.dough} style={style} kitchen={kitchen} onDough={rework} />, with{" "}
            <PrefermentsPanel dough={draft.dough} things={things} onDough={rework} />,{" "}
            <Picker
              label="programme"
              shown={programme?.name ?? "hours of its own"}
              value={programme?.key ?? ""}
              choices={things.programmes.map((p) => ({ value: p.key, label: p.name, note: p.about }))}
              onPick={pickProgramme}
            />
            .
          </p>
          {batch.refusal || batch.problem?.at === "programme" || batch.problem?.at === "solve" ? (
            <p role="alert" className="mt-1 border-l-2 border-brick pl-2 font-semibold text-brick">
              {units.say(batch.refusal?.message ?? batch.problem?.text ?? "")}{" "}
              {batch.refusal ? (
                <span className="font-normal text-ash">What is shown is the last that went.</span>
              ) : null}
            </p>
          ) : null}
        </div>
        <div className="grid content-start justify-items-end gap-1">
          <NameAndSave
            label="Name of the dough"
            name={draft.name}
            usual={defaultName}
            saved={untouched}
            held={save.isPending || batch.refusal !== null}
            onName={(name) => {
              put({ name });
            }}
            onSave={doSave}
          >
            <DoughsMenu openId={saved?.id ?? null} />
          </NameAndSave>
          <div className="flex flex-wrap justify-end gap-x-3 gap-y-1 text-[13px] text-air">
            {touched ? (
              <button
                type="button"
                className="underline underline-offset-2"
                onClick={() => {
                  batch.forget();
                  putAway();
                }}
              >
                {saved ? "back to the dough as saved" : "begin again"}
              </button>
            ) : null}
            <button
              type="button"
              className="underline underline-offset-2"
              onClick={() => {
                window.print();
              }}
            >
              print the sheet
            </button>
            <WriteMenu draft={draft} name={draft.name || defaultName} />
            {saved ? (
              <Link className="underline underline-offset-2" to={`/timeline/new?dough=${String(saved.id)}`}>
                its days
              </Link>
            ) : null}
          </div>
          {save.error && !clash ? (
            <p role="alert" className="max-w-80 text-right text-brick">
              {save.error.message}
            </p>
          ) : null}
        </div>
      </header>
      {theirs ? (
        <Conflict
          noun="dough"
          mine={{ name: draft.name || defaultName, mixed: draft.mixedAt, ...draft.dough }}
          theirs={{ name: theirs.name, mixed: theirs.mixed_at, ...theirs.dough }}
          busy={save.isPending}
          onBoth={() => {
            const as = { ...draft, name: `${draft.name || defaultName}, mine`.slice(0, 80) };
            save.mutate(
              { as, over: null },
              {
                onSuccess: () => {
                  resolved(theirs);
                },
              },
            );
          }}
          onMine={() => {
            const other: DoughDraft = {
              name: `${theirs.name}, the other`.slice(0, 80),
              dough: theirs.dough,
              planId: theirs.plan_id,
              mixedAt: theirs.mixed_at,
            };
            void answer(client.POST("/api/dough", { body: bodyOf(other, defaultName) })).then(() => {
              save.mutate({ as: draft, over: { id: theirs.id, version: theirs.version } });
            });
          }}
          onTheirs={() => {
            const mine = draft;
            batch.forget();
            putAway();
            resolved(theirs);
            offerUndo({
              text: "What you had changed is put aside.",
              undo: () => {
                change(() => mine);
              },
            });
          }}
        />
      ) : null}
      <div className="grid gap-3 md:grid-cols-[minmax(0,478fr)_minmax(0,660fr)] print:hidden">
        <section aria-label="The formula" className="min-w-0 overflow-x-auto bg-panel p-4 pt-3">
          <FormulaPanel
            dough={draft.dough}
            told={told}
            things={things}
            problem={batch.problem}
            hold={hold}
            onHold={setHold}
            onDough={rework}
            onBegin={() => {
              base.current = draft.dough;
            }}
            onChange={(where, change) =>
              void batch.ask(where, {
                // A figure being typed starts from the dough as it was when the field was entered.
                dough: change.what === "swap" ? draft.dough : base.current,
                change,
              })
            }
            waterC={units.temp(told.water.water_c)}
            foot={told.cautions.map((c) => (
              <Caution key={c} text={c} />
            ))}
          />
        </section>
        <Tabs.Root defaultValue="rise" className="flex min-h-0 min-w-0 flex-col bg-panel p-4 pt-3">
          <Tabs.List aria-label="Rise, paste, measure" className="flex flex-wrap">
            {(
              [
                ["rise", "How far it has risen"],
                ["paste", "Paste a recipe"],
                ["measure", "Measure"],
              ] as const
            ).map(([key, name]) => (
              <Tabs.Trigger
                key={key}
                value={key}
                className="mr-5 pb-1 font-display text-[17px] font-semibold text-ash data-[state=active]:border-b-[2.5px] data-[state=active]:border-soot data-[state=active]:text-soot"
              >
                {name}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <Tabs.Content value="rise" className="grid content-start gap-1.5 pt-2">
            <div className="text-[15px]">
              {awaited(rise.windows).map((w) => {
                const isLast = w === rise.windows.at(-1);
                return (
                  <p key={w.stage} data-window={w.stage}>
                    <span className="font-semibold">{stageName(w.stage)}</span>{" "}
                    {w.ready_h != null ? (
                      <>
                        ready from <span className="font-bold text-air">{at(w.ready_h)}</span>
                      </>
                    ) : (
                      "not ready in these hours"
                    )}
                    {w.best_h != null ? (
                      <>
                        , best <span className="font-semibold">{at(w.best_h)}</span>
                      </>
                    ) : null}
                    {isLast && w.too_far_h != null ? `, too far ${at(w.too_far_h)}` : ""}
                    {clockFrom ? "" : " after mixing"}
                  </p>
                );
              })}
            </div>
            <RiseCurve
              told={told}
              steps={draft.dough.steps}
              things={things}
              mixedAt={clockFrom}
              nowH={nowH}
              onDrag={setDragging}
              onSteps={(steps) => {
                rework({ ...draft.dough, steps });
              }}
            />
            <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
              <p className={rise.windows.at(-1)?.word === "ripe" ? "" : "font-semibold text-brick"}>
                {rise.say}{" "}
                <span className="font-normal text-ash">
                  Times ±{Math.round((Math.exp(rise.spread) - 1) * 100)} %.
                </span>
              </p>
              <button
                type="button"
                className="quiet ml-auto"
                onClick={() => void batch.ask("solve", { dough: draft.dough, solve: "yeast" })}
              >
                Dose the yeast for this
              </button>
              <button
                type="button"
                className="quiet"
                onClick={() => void batch.ask("solve", { dough: draft.dough, solve: "last" })}
              >
                Stretch the end
              </button>
            </div>
            <SeenRow
              mixedAt={mixedAt}
              plannedAt={plannedAt}
              nowH={nowH}
              speed={rise.speed}
              count={seen.length}
              onMixed={(moment) => {
                // What was seen counts from the mixing: it moves along, and what lies before it is another batch's.
                const later = moment && mixedAt ? (moment.getTime() - mixedAt.getTime()) / 3_600_000 : 0;
                batch.forget();
                put({
                  dough: {
                    ...draft.dough,
                    seen: moment
                      ? seen.map((s) => ({ ...s, at_h: s.at_h - later })).filter((s) => s.at_h > 0)
                      : [],
                  },
                  mixedAt: moment ? moment.toISOString() : null,
                });
              }}
              onSeen={(ratio, moment) => {
                if (!mixedAt) return;
                const at_h = (moment.getTime() - mixedAt.getTime()) / 3_600_000;
                rework({
                  ...draft.dough,
                  seen: [...seen, { at_h: Math.round(at_h * 1000) / 1000, ratio }].slice(-20),
                });
              }}
              onForget={() => {
                rework({ ...draft.dough, seen: [] });
              }}
            />
          </Tabs.Content>
          <Tabs.Content value="paste" className="min-h-0 pt-3">
            <PastePanel owner={owner} dough={draft.dough} now={told} things={things} onDough={rework} />
          </Tabs.Content>
          <Tabs.Content value="measure" className="pt-3">
            <MeasurePanel things={things} />
          </Tabs.Content>
        </Tabs.Root>
      </div>
      <div className="grid gap-3 md:grid-cols-[minmax(0,478fr)_minmax(0,660fr)] print:hidden">
        <WaterPanel dough={draft.dough} told={told} onDough={rework} />
        <OvenPanel
          dough={draft.dough}
          planId={draft.planId}
          plans={plans}
          reference={reference}
          onPlan={(id) => {
            put({ planId: id });
          }}
          onDough={rework}
        />
      </div>
      <BatchSheet draft={draft} told={told} title={draft.name || saved?.name || defaultName} />
    </main>
  );
}
