import { useStartBake } from "../../app/useStartBake";
import { Button } from "../../ui/Button";
import { ClockField } from "../../ui/ClockField";
import type { Schemas } from "../../api/client";
import { Figure } from "../../ui/Figure";
import { DeskTop } from "../../ui/DeskTop";
import { programmed } from "../../supper/draft";
import { useRecipe, useSetup, useTaken } from "../../supper/Library";
import { SuppersMenu } from "../../supper/SuppersMenu";
import { Picker } from "../../ui/Picker";
import type { DoughReference } from "../../ui/dough";
import { dayName, daysToChoose } from "./supperWords";
import type { Desk } from "./useSupperDesk";

/** The supper in a sentence: when, how many, of what, by which programme and plan. */
export function SupperSentence({
  desk,
  things,
  doughs,
  plans,
}: {
  desk: Desk;
  things: DoughReference;
  doughs: readonly Schemas["DoughLine"][];
  plans: readonly Schemas["PlanLine"][];
}) {
  const { words, refusal, supper } = desk;
  const { dough, plan } = supper.draft;
  const recipe = useRecipe(supper);
  const setup = useSetup(supper);
  const take = useTaken(supper);
  const programmes = [
    ...things.programmes.map((p) => ({ value: p.key, label: p.name, note: p.about })),
    ...(dough ? [{ value: "own", label: "as in the dough", note: "the hours set on its curve" }] : []),
  ];
  return (
    <p className="font-display text-[23px] leading-snug" id="sentence" tabIndex={-1}>
      First pizza at{" "}
      <ClockField
        label="First pizza on the table at"
        value={words.serve_at.slice(11, 16)}
        onChange={(time) => {
          desk.say({ serve_at: `${words.serve_at.slice(0, 10)}T${time}` });
        }}
      />{" "}
      on{" "}
      <Picker
        label="day"
        shown={dayName(words.serve_at)}
        value={words.serve_at.slice(0, 10)}
        choices={daysToChoose(words.serve_at, words.time_zone ?? "UTC")}
        onPick={(date) => {
          desk.say({ serve_at: `${date}T${words.serve_at.slice(11, 16)}` });
        }}
      />
      ,{" "}
      <Figure
        label="How many pizzas"
        value={words.pizzas ?? 4}
        digits={0}
        step={1}
        wide="w-9 font-bold !border-brick !border-b-[2.5px]"
        problem={refusal?.path.endsWith("pizzas") ? refusal.text : undefined}
        bounds={[1, 12]}
        onChange={(value) => {
          desk.say({ pizzas: Math.max(1, Math.min(12, Math.round(value))) });
        }}
      />{" "}
      of{" "}
      <Picker
        label="dough"
        shown={dough ? dough.name || "its own dough" : "a usual dough"}
        value={dough ? -1 : 0}
        choices={[
          ...(dough ? [{ value: -1, label: dough.name || "its own dough" }] : []),
          { value: 0, label: "a usual dough", note: "the style's own" },
          ...doughs.map((d) => ({ value: d.id, label: d.name, note: `recipe, ${String(d.pieces)} pieces` })),
        ]}
        onPick={(id) => {
          if (id > 0) void recipe(id);
          if (id !== 0 || !dough) return;
          // Hours that were the dough's own go with it.
          const hours = words.programme === "own" ? programmed("cold_1", words, false) : {};
          take("It is a usual dough now.", (was) => ({ ...was, dough: null, words: { ...words, ...hours } }));
        }}
      />
      ,{" "}
      <Picker
        label="programme"
        shown={programmes.find((p) => p.value === words.programme)?.label ?? "a day in the fridge"}
        value={words.programme ?? "cold_1"}
        choices={programmes}
        onPick={(key) => {
          desk.say(programmed(key, words, dough !== null));
        }}
      />
      , baked on{" "}
      <Picker
        label="plan"
        shown={plan ? (supper.headline?.where ?? "its oven") : "no oven yet"}
        value={plan ? -1 : 0}
        choices={[
          ...(plan ? [{ value: -1, label: supper.headline?.where ?? "its oven" }] : []),
          { value: 0, label: "no oven yet", note: "45 min to heat, 7 min a pizza" },
          ...plans.map((p) => ({ value: p.id, label: p.name, note: `setup, ${p.support ?? ""}` })),
        ]}
        onPick={(id) => {
          if (id > 0) void setup(id);
          else if (id === 0 && plan) take("It has no oven yet.", (was) => ({ ...was, plan: null }));
        }}
      />
      .
    </p>
  );
}

/** The supper's evening, at the oven: its heat goes on. */
function BakeIt({ desk }: { desk: Desk }) {
  const bake = useStartBake();
  if (desk.supper.draft.plan === null) return null;
  return (
    <>
      <Button
        look="link"
        disabled={bake.isPending || desk.saving.busy}
        onClick={() => {
          void desk.saving.ensured().then((row) => {
            if (row) bake.mutate({ supper_id: row.id });
          });
        }}
      >
        heat on now, bake it
      </Button>
      {bake.isError ? (
        <span role="alert" className="text-brick">
          {bake.error.message}
        </span>
      ) : null}
    </>
  );
}

/** Its name, saving it, and what else can be done with it. */
export function SupperTop({ desk }: { desk: Desk }) {
  const { draft, saved, saving, supper } = desk;
  // A calendar is made of what is saved: what is not yet is saved first.
  const intoCalendar = async () => {
    const row = await saving.ensured();
    if (row) window.location.assign(`/api/timeline/${String(row.id)}/calendar.ics`);
  };
  return (
    <DeskTop
      noun="supper"
      name={draft.name}
      usual={supper.usual}
      saving={saving}
      problem={saving.problem ?? desk.steps.problem}
      touched={desk.touched}
      saved={saved !== null}
      prints="the sheets"
      menu={<SuppersMenu openId={saved?.id ?? null} part="timeline" />}
      onName={(name) => {
        supper.change((was) => ({ ...was, name }));
      }}
      onBegin={saving.beginAgain}
    >
      <Button
        look="link"
        className="disabled:text-ash disabled:no-underline"
        disabled={!desk.told?.result.feasible || desk.refusal !== null || saving.busy}
        onClick={() => {
          void intoCalendar();
        }}
      >
        into the calendar
      </Button>
      <BakeIt desk={desk} />
    </DeskTop>
  );
}
