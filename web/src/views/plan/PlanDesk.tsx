import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, Refusal } from "../../api/client";
import { useUndo } from "../../app/Undo";
import { useShortcut } from "../../app/useShortcut";
import { Conflict } from "../../ui/Conflict";
import type { Reference } from "../../ui/crust";
import { valueAt } from "../../ui/interpolate";
import { Picker, type Choice } from "../../ui/Picker";
import { CrustWords, SliceSection, Underside, type CrustNow } from "../../ui/Slice";
import { Strip } from "../../ui/Strip";
import type { StyleLine } from "../../ui/styles";
import { bakeTime, clockAfter } from "../../ui/time";
import { useLast } from "../../ui/useLast";
import { NameAndSave } from "../../ui/NameAndSave";
import { useUnits } from "../../ui/units";
import { CardPanel } from "./CardPanel";
import { DoughMenu } from "./DoughMenu";
import { DeckReading, Stepper } from "./Corner";
import { flagsOf } from "./flags";
import { Handlings, handlingsOf } from "./Handlings";
import { PinBoard } from "./PinBoard";
import { PlanSection } from "./PlanSection";
import { RowTab } from "./RowTab";
import { PlansMenu } from "./PlanBar";
import { SentenceHead } from "./SentenceHead";
import {
  styleOf,
  type Controls,
  type Draft,
  type Kitchen,
  type PlanResult,
  type Preview,
  type Rigs,
  type SavedPlan,
  type Sentence,
} from "./types";
import { useDraft } from "./useDraft";
import { thinned, usePins } from "./usePins";
import { usePlayed } from "./usePlayed";

/** A saved plan in the shape of a preview: exactly what was stored. */
function asPreview(saved: SavedPlan): Preview {
  return {
    sentence: saved.sentence as Sentence,
    names: saved.names,
    ask: saved.ask as Preview["ask"],
    result: saved.result as unknown as PlanResult,
  };
}

export function PlanDesk({
  owner,
  reference,
  styles,
  kitchen,
  rigs,
  saved,
  first,
}: {
  owner: string;
  reference: Reference;
  styles: readonly StyleLine[];
  kitchen: Kitchen;
  rigs: Rigs;
  saved: SavedPlan | null;
  first: Draft | null;
}) {
  const units = useUnits();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [kept, setDraft, leave, began] = useDraft(owner, saved?.id ?? null, saved?.version ?? null);
  const asSaved: Draft | null = saved
    ? {
        sentence: saved.sentence as Sentence,
        controls: (saved.result as unknown as PlanResult).controls,
        name: saved.name,
      }
    : first;
  const draft = kept ?? asSaved;
  const [dragging, setDragging] = useState(false);
  const [handle, setHandle] = useState<number | null>(null);
  const spread = useRef({ look_from: 0.75, not_later: 1.35 });
  // A saved plan that nobody has touched is shown as it was stored, not played again.
  const untouched = saved !== null && kept === null;
  const playing = usePlayed(untouched ? null : draft, saved?.id ?? null, dragging, spread.current);
  // A refusal leaves the last answer standing: the page must not move under the cook's fingers.
  const lastGood = useLast(
    playing.data && !playing.isPlaceholderData ? playing.data : null,
    saved ? asPreview(saved) : null,
  );
  const played = untouched ? asPreview(saved) : (playing.data ?? lastGood ?? undefined);
  const refusal = !untouched && playing.error instanceof Refusal ? playing.error : null;
  const [reasons, setReasons] = useState<PlanResult["reasons"]>([]);
  // The schools as the last search weighed them; a plan set by hand weighs none.
  const [options, setOptions] = useState<PlanResult["plans"]>([]);
  const offerUndo = useUndo();
  const pins = usePins(owner);
  const [comparing, setComparing] = useState(false);
  const full = played && played.result.reasons.length > 0 ? played.result : null;
  useEffect(() => {
    if (!full) return;
    setReasons(full.reasons);
    if (full.searched) setOptions(full.plans);
    const r = full.result;
    spread.current = {
      look_from: Math.min(1, r.look_from_s / r.likely_done_s),
      not_later: Math.max(1, r.not_later_s / r.likely_done_s),
    };
  }, [full]);

  const save = useMutation({
    mutationFn: (as: { draft: Draft; controls: Controls; id: number | null; version?: number }) => {
      const body = {
        sentence: as.draft.sentence,
        controls: as.controls,
        name: as.draft.name || defaultName(),
        plan_id: saved?.id ?? null,
      };
      return as.id === null
        ? answer(client.POST("/api/plans", { body }))
        : answer(
            client.PUT("/api/plans/{plan_id}", {
              // What the draft began from: whatever came after it is not overwritten unseen.
              params: { path: { plan_id: as.id }, query: { version: as.version ?? began ?? 1 } },
              body,
            }),
          );
    },
    onSuccess: (plan) => {
      if (saved) setDraft(null);
      else leave();
      queries.setQueryData(["plan", plan.id], plan);
      void queries.invalidateQueries({ queryKey: ["plans"] });
      void navigate(`/plan/${String(plan.id)}`);
    },
  });

  const style = styleOf(draft?.sentence, styles);
  const support =
    kitchen.pans.find((p) => p.id === draft?.sentence.pan_id)?.name ??
    kitchen.surfaces.find((s) => s.id === draft?.sentence.surface_id)?.name ??
    played?.names.surface ??
    played?.names.pan ??
    "";
  const defaultName = () => `${style?.name ?? "Plan"}, ${support}`;
  const controls: Controls | null = draft?.controls ?? played?.result.controls ?? null;

  const change = (sentence: Partial<Sentence>, fresh: boolean) => {
    if (!draft) return;
    if (fresh) setHandle(null);
    setDraft({
      ...draft,
      sentence: { ...draft.sentence, ...sentence },
      controls: fresh ? null : draft.controls,
    });
  };
  const control = (next: Partial<Controls>) => {
    if (draft && controls) setDraft({ ...draft, controls: { ...controls, ...next } });
  };
  const hearth = played?.ask.hearth;
  const levels = hearth?.levels ?? 5;
  const toLevel = (level: number) => {
    if (level >= 1 && level <= levels) control({ level });
  };
  const toggleTop = () => {
    if (!hearth || played.result.fire) return;
    if (hearth.top_element_usable === false || (hearth.top_element_kw ?? 0) <= 0) return;
    control({
      top_element: controls?.top_element ? null : { on_s: 0, off_s: 90 },
      fan: hearth.fan_can_be_off === false,
    });
  };
  const toggleFan = () => {
    if (hearth?.has_fan && !played?.result.fire && hearth.fan_can_be_off !== false)
      control({ fan: !(controls?.fan ?? false) });
  };
  const preheat = (minutes: number) => {
    control({ preheat_min: Math.max(5, Math.min(150, minutes)) });
  };

  const told = played?.result.result;
  const traces = useMemo(() => (told ? afterLaunch(told.traces) : undefined), [told]);
  const end = traces?.t_s.at(-1) ?? 600;
  const at = Math.max(0, Math.min(end, handle ?? told?.likely_done_s ?? 0));
  const doSave = () => {
    if (draft && controls && !refusal && !save.isPending)
      save.mutate({ draft, controls, id: saved?.id ?? null });
  };
  // The saved plan as another window left it, while this one's draft began before.
  const clash = save.error instanceof Refusal && save.error.conflict ? (save.error.now as SavedPlan) : null;
  const theirs: SavedPlan | null =
    clash ?? (saved && kept && began !== null && saved.version !== began ? saved : null);
  const resolved = (plan: SavedPlan) => {
    save.reset();
    queries.setQueryData(["plan", plan.id], plan);
    void queries.invalidateQueries({ queryKey: ["plans"] });
  };
  const doPin = () => {
    if (!draft || !controls || !played || !told) return;
    pins.pin({
      facts: factsOf(played, controls, support, units),
      draft: { ...draft, controls },
      controls,
      word: played.result.word,
      doneS: told.likely_done_s,
      lookS: told.look_from_s,
      lateS: told.not_later_s,
      ...thinned(played.result),
    });
    setComparing(true);
  };
  // A dough is for a saved plan: what is not saved yet is saved first.
  const makeDough = async () => {
    if (!draft || !controls) return;
    const plan = untouched
      ? saved
      : await save.mutateAsync({ draft, controls, id: saved?.id ?? null }).catch(() => null);
    if (plan) void navigate(`/dough/new?plan=${String(plan.id)}`);
  };
  useShortcut(["/", ",", ".", "<", ">", "ArrowUp", "ArrowDown", "t", "f", "[", "]", "s", "p"], (key, e) => {
    if (e.target instanceof Element && e.target.closest("[role=dialog],[role=listbox]")) return;
    if (
      key.startsWith("Arrow") &&
      e.target instanceof Element &&
      e.target.closest("[role=slider],[role=tab],[role=tabpanel],button")
    )
      return;
    e.preventDefault();
    if (key === "/") document.getElementById("sentence")?.focus();
    else if (key === "," || key === "<") setHandle(Math.max(0, at - (key === "<" ? 60 : 15)));
    else if (key === "." || key === ">") setHandle(Math.min(end, at + (key === ">" ? 60 : 15)));
    else if (key === "ArrowUp") toLevel((controls?.level ?? 1) + 1);
    else if (key === "ArrowDown") toLevel((controls?.level ?? 1) - 1);
    else if (key === "t") toggleTop();
    else if (key === "f") toggleFan();
    else if (key === "[") preheat((controls?.preheat_min ?? 45) - 5);
    else if (key === "]") preheat((controls?.preheat_min ?? 45) + 5);
    else if (key === "p") doPin();
    else doSave();
  });

  if (!draft) return null;
  const head = (
    <SentenceHead
      sentence={draft.sentence}
      kitchen={kitchen}
      rigs={rigs}
      reference={reference}
      styles={styles}
      played={played}
      onChange={change}
    />
  );
  if (!played || !told || !traces || !controls)
    return (
      <main className="grid gap-4 p-5">
        {head}
        {refusal ? (
          <Refused message={units.say(refusal.message)} onAgain={() => void playing.refetch()} />
        ) : (
          <div className="h-96 bg-panel waiting" aria-busy="true" />
        )}
      </main>
    );
  const pick = (values: readonly number[]) => valueAt(traces.t_s, values, at);
  const dough = played.result.dough;
  const loading = (dough.mass_g ?? 250) / (dough.area_cm2 ?? 707);
  const crust: CrustNow = {
    bottomL: pick(traces.bottom_l),
    rimL: pick(traces.rim_l),
    cheeseL: pick(traces.cheese_l),
    coreC: pick(traces.core_c),
    lossPct: pick(traces.loss_pct),
    dryMm: pick(traces.bottom_dry_mm),
    spotPct: pick(traces.dark_spot_pct),
    rise: Math.max(0, Math.min(1, (pick(traces.core_c) - 35) / 50)),
    loadingGcm2: loading,
  };
  const flags = flagsOf(controls, end, control);
  // On the table: two and a half minutes after the pull.
  const launch = clockAfter(draft.sentence.serve_at ?? "19:30", -(told.likely_done_s + 150));
  const onRack = played.ask.surface == null;
  const title = saved && !draft.name ? saved.name : draft.name || defaultName();
  const stale =
    dragging ||
    playing.isPlaceholderData ||
    playing.isFetching ||
    (!untouched && playing.behind) ||
    (refusal !== null && playing.data === undefined);
  return (
    <main className="flex flex-col gap-2.5 px-5 py-3.5 md:h-full" data-played={stale ? "old" : "now"}>
      <header className="grid gap-3 md:grid-cols-[1fr_auto]">
        <div>
          <h1 className="sr-only">Plan</h1>
          {head}
          {refusal ? (
            <Refused message={units.say(refusal.message)} onAgain={() => void playing.refetch()} />
          ) : null}
        </div>
        <div className="grid content-start justify-items-start gap-1 md:w-[19.5rem] md:justify-items-end md:text-right">
          <p className="font-display text-[18px] leading-tight font-bold">{played.result.word}</p>
          <p className="font-display text-[15px] leading-snug font-semibold">
            by{" "}
            <Picker
              label="method"
              shown={played.result.method}
              value={draft.sentence.method ?? null}
              choices={methodChoices(played.result, options)}
              onPick={(method) => {
                change({ method }, true);
              }}
              more={
                <label className="mt-2 flex items-center gap-2 border-t border-line px-3 pt-3 pb-1 font-sans text-[14px] font-normal">
                  <input
                    type="checkbox"
                    checked={draft.sentence.formula_free ?? false}
                    onChange={(e) => {
                      change({ formula_free: e.target.checked }, true);
                    }}
                  />
                  the dough may be changed, too
                </label>
              }
            />
          </p>
          <p className="text-[13px] leading-snug text-ash">
            {draft.controls && !untouched ? (
              <button
                type="button"
                className="font-semibold text-air underline underline-offset-2"
                onClick={() => {
                  setHandle(null);
                  setDraft({ ...draft, controls: null });
                }}
              >
                set by you; let Mattone choose
              </button>
            ) : played.result.runner_up ? (
              `runner-up: ${played.result.runner_up}`
            ) : null}
          </p>
          <NameAndSave
            label="Name of the plan"
            name={draft.name}
            usual={defaultName()}
            saved={untouched}
            held={save.isPending || refusal !== null}
            wide="w-24 text-[13px]"
            onName={(name) => {
              setDraft({ ...draft, name });
            }}
            onSave={doSave}
          >
            <DoughMenu
              busy={save.isPending || refusal !== null}
              chosen={draft.sentence.dough_id ?? null}
              onMake={() => {
                void makeDough();
              }}
              onChoose={(dough_id) => {
                change({ dough_id }, true);
              }}
            />
            <PlansMenu openId={saved?.id ?? null} />
          </NameAndSave>
          {saved && kept ? (
            <button
              type="button"
              className="text-[13px] text-air underline underline-offset-2"
              onClick={() => {
                setHandle(null);
                setDraft(null);
              }}
            >
              back to the plan as saved
            </button>
          ) : null}
          {saved && saved.engine !== saved.engine_now ? (
            <p className="text-[13px] text-ash">made with engine {saved.engine}</p>
          ) : null}
          {save.error && !clash ? (
            <p role="alert" className="text-brick">
              {save.error.message}
            </p>
          ) : null}
        </div>
      </header>
      {theirs && controls ? (
        <Conflict
          noun="plan"
          mine={{ name: title, ...draft.sentence, controls }}
          theirs={{
            name: theirs.name,
            ...theirs.sentence,
            controls: (theirs.result as unknown as PlanResult).controls,
          }}
          busy={save.isPending}
          onBoth={() => {
            save.mutate(
              { draft: { ...draft, name: `${title}, mine`.slice(0, 80) }, controls, id: null },
              {
                onSuccess: () => {
                  resolved(theirs);
                },
              },
            );
          }}
          onMine={() => {
            const other: Draft = {
              sentence: theirs.sentence as Sentence,
              controls: (theirs.result as unknown as PlanResult).controls,
              name: `${theirs.name}, the other`.slice(0, 80),
            };
            const body = {
              sentence: other.sentence,
              controls: other.controls,
              name: other.name,
              plan_id: theirs.id,
            };
            void answer(client.POST("/api/plans", { body })).then(() => {
              save.mutate({
                draft: { ...draft, name: title },
                controls,
                id: theirs.id,
                version: theirs.version,
              });
            });
          }}
          onTheirs={() => {
            const mine = draft;
            setDraft(null);
            resolved(theirs);
            offerUndo({
              text: "What you had changed is put aside.",
              undo: () => {
                setDraft(mine);
              },
            });
          }}
        />
      ) : null}
      <div className="grid min-h-0 gap-3 md:min-h-[334px] md:flex-1 md:grid-cols-[480fr_334fr_330fr]">
        <section aria-label="The section" className="min-h-0 bg-well p-1.5">
          <PlanSection
            played={played}
            controls={controls}
            sentence={draft.sentence}
            kitchen={kitchen}
            reference={reference}
            crust={crust}
            at={at}
            deckC={pick(traces.deck_c)}
            airC={pick(traces.air_c)}
            pizzaCm={style?.diameter_cm ?? 30}
            onControl={control}
            onLevel={toLevel}
            onTop={toggleTop}
            onFan={toggleFan}
            onDrag={setDragging}
          />
        </section>
        <section aria-label="The slice" className="min-h-0 bg-panel p-4 pb-2">
          <h2 className="text-[17px] font-bold">
            At {bakeTime(at)}{" "}
            <span className="font-sans text-[13px] font-normal text-ash">the slice, and its underside</span>
          </h2>
          <SliceSection crust={crust} reference={reference} />
          <div className="grid grid-cols-[112px_1fr] items-center gap-3">
            <Underside crust={crust} reference={reference} />
            <CrustWords crust={crust} reference={reference} coreWanted={played.result.wanted.core_c} />
          </div>
        </section>
        <CardPanel
          result={{ ...played.result, reasons }}
          launch={launch}
          title={title}
          stale={stale}
          row={
            <RowTab
              sentence={draft.sentence}
              controls={controls}
              planId={saved?.id ?? null}
              firstLaunch={launch}
            />
          }
        />
      </div>
      {comparing ? (
        <section aria-label="Pinned variants" className="min-h-0 bg-panel">
          <p className="flex gap-1.5 px-4 pt-2">
            <PinButtons
              count={pins.pins.length}
              busy={stale}
              comparing={comparing}
              onPin={doPin}
              onCompare={setComparing}
            />
          </p>
          <PinBoard
            pins={pins.pins}
            reference={reference}
            onUnpin={pins.unpin}
            onTake={(pin) => {
              setHandle(null);
              setDraft({ ...pin.draft, controls: pin.controls, name: draft.name });
            }}
          />
        </section>
      ) : null}
      <section aria-label="The strip" className="min-h-0 bg-panel" hidden={comparing}>
        <Strip
          data={{
            traces,
            preheat: told.preheat,
            preheatMin: controls.preheat_min,
            lookS: told.look_from_s,
            doneS: told.likely_done_s,
            lateS: told.not_later_s,
            launchClock: launch,
            hasDeck: !onRack,
          }}
          reference={reference}
          handleS={at}
          flags={flags}
          onScrub={setHandle}
          onPreheat={preheat}
          onDrag={setDragging}
          corner={
            <div className="grid gap-1.5">
              <span>
                {played.result.fire ? "launch at" : "dial at"} <b>{units.temp(controls.setpoint_c)}</b>
                <Stepper
                  label={played.result.fire ? "launch temperature" : "dial"}
                  onStep={(d) => {
                    control({
                      setpoint_c: Math.max(
                        played.result.fire?.lowest_c ?? 100,
                        Math.min(
                          played.result.fire?.hottest_c ?? hearth?.max_setpoint_c ?? 275,
                          controls.setpoint_c + d * 5,
                        ),
                      ),
                    });
                  }}
                />
              </span>
              <span className="flex flex-wrap gap-1.5">
                <Handlings
                  handlings={handlingsOf(controls, played.ask, played.result, control)}
                  cheese={controls.cheese}
                  onCheese={(cheese) => {
                    control({ cheese });
                  }}
                />
                <PinButtons
                  count={pins.pins.length}
                  busy={stale}
                  comparing={comparing}
                  onPin={doPin}
                  onCompare={setComparing}
                />
              </span>
              {onRack ? null : (
                <DeckReading
                  value={draft.sentence.deck_reading_c ?? null}
                  onChange={(deck_reading_c) => {
                    change({ deck_reading_c }, false);
                  }}
                />
              )}
            </div>
          }
        />
      </section>
    </main>
  );
}

function Refused({ message, onAgain }: { message: string; onAgain: () => void }) {
  return (
    <p
      role="alert"
      className="mt-1 flex flex-wrap items-baseline gap-3 border-l-4 border-brick bg-brick-wash px-3 py-2"
    >
      <span>{message}</span>
      <button type="button" className="font-semibold text-air underline underline-offset-2" onClick={onAgain}>
        try again
      </button>
    </p>
  );
}

/** Records from the launch on: a hob start is told by its flag. */
function afterLaunch<T extends { t_s: number[] }>(traces: T): T {
  const from = traces.t_s.findIndex((t) => t >= 0);
  if (from <= 0) return traces;
  return Object.fromEntries(
    Object.entries(traces).map(([key, values]) => [key, (values as number[]).slice(from)]),
  ) as T;
}

/** The schools this rig allows, with what the search made of each. */
function methodChoices(result: PlanResult, options: PlanResult["plans"]): Choice<string | null>[] {
  return [
    { value: null, label: "what Mattone would choose" },
    ...result.methods.map((method) => {
      const option = options.find((o) => o.method === method);
      return {
        value: method,
        label: method,
        ...(option
          ? {
              note: `${option.word}, ${bakeTime(option.likely_done_s)}: base ${option.bottom_word}, rim ${option.rim_word}`,
            }
          : {}),
      };
    }),
  ];
}

/** A plan in words, fact by fact, to be compared with another. */
function factsOf(
  played: Preview,
  c: Controls,
  support: string,
  units: ReturnType<typeof useUnits>,
): Record<string, string> {
  const { result } = played;
  const done = result.result.at_done;
  const at = (s: number | null | undefined) => (s == null ? "no" : bakeTime(s));
  return {
    style: played.names.style,
    hearth: played.names.hearth,
    on: support,
    by: result.method,
    level: String(c.level),
    at: units.temp(c.setpoint_c),
    preheat: `${String(c.preheat_min)} min`,
    fan: c.fan ? "on" : "off",
    element: c.top_element ? `${bakeTime(c.top_element.on_s)} to ${bakeTime(c.top_element.off_s)}` : "off",
    shield: at(c.shield?.on_s),
    move: c.move ? `to ${String(c.move.level)} at ${bakeTime(c.move.at_s)}` : "no",
    "par-bake": at(c.par_bake_s),
    "late cheese": at(c.cheese_s),
    hob: at(c.hob_s),
    "second deck": c.overhead ? `on ${String(c.overhead.level)}` : "no",
    topping: played.sentence.topping ?? "normal",
    deck: units.temp(result.result.deck_at_launch_c),
    base: done.bottom_word,
    rim: done.rim_word,
    crumb: `${done.crumb_word}, ${done.loss_pct.toFixed(0)} % lost`,
    crust: `${done.crisp_word} ${units.length(done.bottom_dry_mm)}`,
  };
}

/** Pin the plan as it stands; look at what is pinned, or go back to the strip. */
function PinButtons({
  count,
  busy,
  comparing,
  onPin,
  onCompare,
}: {
  count: number;
  busy: boolean;
  comparing: boolean;
  onPin: () => void;
  onCompare: (comparing: boolean) => void;
}) {
  return (
    <>
      <button type="button" className="quiet" onClick={onPin} disabled={busy}>
        {comparing ? "Pin the plan as it is" : "Pin"}
      </button>
      {count > 0 || comparing ? (
        <button
          type="button"
          className="quiet"
          onClick={() => {
            onCompare(!comparing);
          }}
        >
          {comparing ? "Back to the strip" : `Compare ${String(count)}`}
        </button>
      ) : null}
    </>
  );
}
