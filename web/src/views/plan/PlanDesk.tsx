import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, Refusal } from "../../api/client";
import { useShortcut } from "../../app/useShortcut";
import { crustColour, type Reference } from "../../ui/crust";
import { valueAt } from "../../ui/interpolate";
import { OvenSection } from "../../ui/OvenSection";
import { CrustWords, SliceSection, Underside, type CrustNow } from "../../ui/Slice";
import { Strip } from "../../ui/Strip";
import type { Flag } from "../../ui/StripFlag";
import { bakeTime, clockAfter } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { CardPanel } from "./CardPanel";
import { PlansMenu } from "./PlanBar";
import { SentenceHead } from "./SentenceHead";
import type { Controls, Draft, Kitchen, PlanResult, Preview, SavedPlan, Sentence } from "./types";
import { useDraft } from "./useDraft";
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
  kitchen,
  saved,
  first,
}: {
  owner: string;
  reference: Reference;
  kitchen: Kitchen;
  saved: SavedPlan | null;
  first: Draft | null;
}) {
  const units = useUnits();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [kept, setDraft] = useDraft(owner, saved?.id ?? null);
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
  const [lastGood, setLastGood] = useState<typeof playing.data>(undefined);
  useEffect(() => {
    if (playing.data && !playing.isPlaceholderData) setLastGood(playing.data);
  }, [playing.data, playing.isPlaceholderData]);
  const played = untouched ? asPreview(saved) : (playing.data ?? lastGood);
  const refusal = !untouched && playing.error instanceof Refusal ? playing.error : null;
  const [reasons, setReasons] = useState<PlanResult["reasons"]>([]);
  const full = played && played.result.reasons.length > 0 ? played.result : null;
  useEffect(() => {
    if (!full) return;
    setReasons(full.reasons);
    const r = full.result;
    spread.current = {
      look_from: Math.min(1, r.look_from_s / r.likely_done_s),
      not_later: Math.max(1, r.not_later_s / r.likely_done_s),
    };
  }, [full]);

  const save = useMutation({
    mutationFn: (as: { draft: Draft; controls: Controls; id: number | null }) => {
      const body = {
        sentence: as.draft.sentence,
        controls: as.controls,
        name: as.draft.name || defaultName(),
        plan_id: saved?.id ?? null,
      };
      return as.id === null
        ? answer(client.POST("/api/plans", { body }))
        : answer(client.PUT("/api/plans/{plan_id}", { params: { path: { plan_id: as.id } }, body }));
    },
    onSuccess: (plan) => {
      setDraft(null);
      queries.setQueryData(["plan", plan.id], plan);
      void queries.invalidateQueries({ queryKey: ["plans"] });
      void navigate(`/plan/${String(plan.id)}`);
    },
  });

  const style = reference.styles.find((s) => s.key === draft?.sentence.style);
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
    if (!hearth || hearth.top_element_usable === false || (hearth.top_element_kw ?? 0) <= 0) return;
    control({
      top_element: controls?.top_element ? null : { on_s: 0, off_s: 90 },
      fan: hearth.fan_can_be_off === false,
    });
  };
  const toggleFan = () => {
    if (hearth?.has_fan && hearth.fan_can_be_off !== false) control({ fan: !(controls?.fan ?? false) });
  };
  const preheat = (minutes: number) => {
    control({ preheat_min: Math.max(5, Math.min(150, minutes)) });
  };

  const told = played?.result.result;
  const traces = told?.traces;
  const end = traces?.t_s.at(-1) ?? 600;
  const at = Math.max(0, Math.min(end, handle ?? told?.likely_done_s ?? 0));
  const doSave = () => {
    if (draft && controls && !refusal && !save.isPending)
      save.mutate({ draft, controls, id: saved?.id ?? null });
  };
  useShortcut(["/", ",", ".", "<", ">", "ArrowUp", "ArrowDown", "t", "f", "[", "]", "s"], (key, e) => {
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
    else doSave();
  });

  if (!draft) return null;
  const head = (
    <SentenceHead
      sentence={draft.sentence}
      kitchen={kitchen}
      reference={reference}
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
  const loading = (played.ask.dough?.mass_g ?? 250) / (played.ask.dough?.area_cm2 ?? 707);
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
  const top = controls.top_element ?? null;
  const flags: Flag[] = [];
  if (top) {
    flags.push({
      key: "top-on",
      name: "element on",
      atS: top.on_s,
      min: -600,
      max: top.off_s - 15,
      onMove: (on_s) => {
        control({ top_element: { ...top, on_s } });
      },
    });
    flags.push({
      key: "top-off",
      name: "element off",
      atS: top.off_s,
      min: top.on_s + 15,
      max: end,
      onMove: (off_s) => {
        control({ top_element: { ...top, off_s } });
      },
    });
  }
  if (controls.turn_s != null)
    flags.push({
      key: "turn",
      name: "turn",
      atS: controls.turn_s,
      min: 10,
      max: end,
      onMove: (turn_s) => {
        control({ turn_s });
      },
    });
  // On the table: two and a half minutes after the pull.
  const launch = clockAfter(draft.sentence.serve_at ?? "19:30", -(told.likely_done_s + 150));
  const surface = kitchen.surfaces.find((s) => s.id === draft.sentence.surface_id);
  const pan = kitchen.pans.find((p) => p.id === draft.sentence.pan_id);
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
        <div className="grid content-start justify-items-start gap-1 md:w-[17.5rem] md:justify-items-end md:text-right">
          <p className="font-display text-[18px] leading-tight font-bold">
            {played.result.word}
            <span className="block text-[14px] font-semibold">{played.result.method}</span>
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
          <div className="flex flex-wrap gap-1.5 md:justify-end">
            <input
              aria-label="Name of the plan"
              className="w-36 border-b border-line bg-transparent px-1 text-[13px]"
              placeholder={defaultName()}
              maxLength={80}
              value={draft.name}
              onChange={(e) => {
                setDraft({ ...draft, name: e.target.value });
              }}
            />
            <button
              type="button"
              className="press !px-3 !py-1"
              disabled={save.isPending || refusal !== null || untouched}
              onClick={doSave}
            >
              {untouched ? "Saved" : "Save"}
            </button>
            <PlansMenu openId={saved?.id ?? null} />
          </div>
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
          {save.error ? (
            <p role="alert" className="text-brick">
              {save.error.message}
            </p>
          ) : null}
        </div>
      </header>
      <div className="grid min-h-0 gap-3 md:min-h-[334px] md:flex-1 md:grid-cols-[480fr_334fr_330fr]">
        <section aria-label="The section" className="min-h-0 bg-well p-1.5">
          <OvenSection
            oven={{
              heightsCm: played.result.level_heights_cm,
              cavityCm: played.result.cavity_height_cm,
              level: controls.level,
              fan: controls.fan ?? false,
              hasFan: hearth?.has_fan ?? false,
              topUsable: (hearth?.top_element_usable ?? true) && (hearth?.top_element_kw ?? 0) > 0,
              topGlows: top !== null && at >= top.on_s && at < top.off_s,
              topText: top
                ? `${top.on_s <= 0 ? "launch" : bakeTime(top.on_s)} to ${bakeTime(top.off_s)}`
                : "off",
              bottomText: controls.fan ? "ring and fan" : "base, cycling",
              deckC: pick(traces.deck_c),
              airC: pick(traces.air_c),
              crustColour: crustColour(reference.ramp, crust.rimL),
              cheeseColour: crustColour(reference.ramp, crust.cheeseL + 3),
              deck: played.ask.surface
                ? {
                    kind: played.ask.surface.kind,
                    thicknessMm: played.ask.surface.thickness_mm ?? 10,
                    widthCm: surface?.width_cm ?? 36,
                  }
                : null,
              pan: played.ask.pan
                ? {
                    kind: played.ask.pan.kind,
                    thicknessMm: played.ask.pan.thickness_mm ?? 1,
                    widthCm: pan?.width_cm ?? 34,
                    filled: played.ask.dough?.shape === "pan",
                  }
                : null,
              pizzaCm: style?.diameter_cm ?? 30,
              rise: crust.rise,
            }}
            onLevel={toLevel}
            onDrag={setDragging}
            onTop={toggleTop}
            onFan={toggleFan}
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
        <CardPanel result={{ ...played.result, reasons }} launch={launch} title={title} stale={stale} />
      </div>
      <section aria-label="The strip" className="min-h-0 bg-panel">
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
                dial at <b>{units.temp(controls.setpoint_c)}</b>
                <Stepper
                  label="dial"
                  onStep={(d) => {
                    control({
                      setpoint_c: Math.max(
                        100,
                        Math.min(hearth?.max_setpoint_c ?? 275, controls.setpoint_c + d * 5),
                      ),
                    });
                  }}
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

function Stepper({ label, onStep }: { label: string; onStep: (direction: 1 | -1) => void }) {
  return (
    <span className="ml-1.5 inline-flex gap-1">
      <button
        type="button"
        aria-label={`${label} lower`}
        className="quiet !px-2 !py-0"
        onClick={() => {
          onStep(-1);
        }}
      >
        −
      </button>
      <button
        type="button"
        aria-label={`${label} higher`}
        className="quiet !px-2 !py-0"
        onClick={() => {
          onStep(1);
        }}
      >
        +
      </button>
    </span>
  );
}

/** A thermometer's reading of the deck at launch, in the units shown; empty means none. */
function DeckReading({
  value,
  onChange,
}: {
  value: number | null;
  onChange: (celsius: number | null) => void;
}) {
  const { system } = useUnits();
  const toShown = (c: number) => String(Math.round(system === "us" ? (c * 9) / 5 + 32 : c));
  const [text, setText] = useState<string | null>(null);
  const shown = text ?? (value === null ? "" : toShown(value));
  const number = Number(shown.replace(",", "."));
  const celsius = system === "us" ? ((number - 32) * 5) / 9 : number;
  const wrong = shown.trim() !== "" && !(celsius >= 10 && celsius <= 550);
  return (
    <label className="flex flex-wrap items-baseline gap-x-1.5">
      my thermometer says the deck is at
      <input
        aria-label="deck reading"
        className="w-12 border-b border-ash bg-transparent text-center font-bold"
        inputMode="decimal"
        value={shown}
        aria-invalid={wrong || undefined}
        onChange={(e) => {
          setText(e.target.value);
          const n = Number(e.target.value.replace(",", "."));
          const c = system === "us" ? ((n - 32) * 5) / 9 : n;
          if (e.target.value.trim() === "") onChange(null);
          else if (c >= 10 && c <= 550) onChange(Math.round(c * 10) / 10);
        }}
        onBlur={() => {
          if (!wrong) setText(null);
        }}
      />
      {system === "us" ? "°F" : "°C"}
      {wrong ? (
        <span role="alert" className="text-brick">
          Give a temperature from {system === "us" ? "50 to 1022 °F" : "10 to 550 °C"}, or leave it empty.
        </span>
      ) : null}
    </label>
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
