import { Button } from "../../ui/Button";
import type { Schemas } from "../../api/client";
import { draftOf } from "../../supper/draft";
import { SupperLine } from "../../supper/SupperLine";
import type { SupperAtHand } from "../../supper/useSupper";
import type { DoughReference } from "../../ui/dough";
import { dayAndClock } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { Versions } from "../../ui/Versions";
import { Conditions } from "./Conditions";
import { DoseLine } from "./DoseLine";
import { Offers } from "./Offers";
import { SupperDays } from "./SupperDays";
import { SupperSentence, SupperTop } from "./SupperHead";
import { taken } from "./supperWords";
import type { Told, Words } from "./types";
import { useSupperDesk, type Desk } from "./useSupperDesk";

/** Another dose than the dough's own is offered from this much, as a share. */
const DOSE_DIFFERS = 0.06;

export function SupperDesk(props: {
  supper: SupperAtHand;
  things: DoughReference;
  doughs: readonly Schemas["DoughLine"][];
  plans: readonly Schemas["PlanLine"][];
  start: Words;
}) {
  const { supper, things, doughs, plans } = props;
  const desk = useSupperDesk(props);
  const { words, refusal, impossible, shown, told, steps } = desk;
  const { theirs } = desk.saving;
  const units = useUnits();
  return (
    <main className="flex flex-col gap-2.5 px-5 py-3.5 print:p-0" data-played={desk.stale ? "old" : "now"}>
      <SupperLine supper={supper} />
      <header className="grid gap-3 md:grid-cols-[1fr_auto] print:hidden">
        <div>
          <h1 className="sr-only">Timeline</h1>
          <SupperSentence desk={desk} things={things} doughs={doughs} plans={plans} />
          {refusal ? (
            <p role="alert" className="mt-1 border-l-2 border-brick pl-2 font-semibold text-brick">
              {refusal.text}{" "}
              <span className="font-normal text-ash">What is shown is the last that went.</span>
            </p>
          ) : null}
          {told && !impossible && !refusal ? <Dose desk={desk} told={told} /> : null}
          {told && !impossible && !refusal
            ? (told.result.minds ?? []).map((text) => (
                <p key={text} role="status" className="mt-1 border-l-2 border-brick pl-2 font-semibold">
                  {units.say(text)}
                </p>
              ))
            : null}
        </div>
        <SupperTop desk={desk} />
      </header>
      {theirs ? (
        <Versions
          noun="supper"
          mine={{ ...supper.draft, name: desk.title }}
          theirs={draftOf(theirs)}
          saving={desk.saving}
        />
      ) : null}
      {impossible && told ? (
        <Offers
          result={told.result}
          fixed={steps.fixed}
          nameOf={(step) => shown?.result.steps.find((s) => s.key === step)?.name ?? step}
          onFree={steps.free}
          onTake={(changes) => {
            desk.say(taken(changes));
          }}
        />
      ) : null}
      {steps.overdue.length > 0 && !impossible && !refusal ? <Overdue desk={desk} /> : null}
      {shown ? (
        <SupperDays desk={desk} shown={shown} things={things} />
      ) : refusal || impossible ? (
        <section className="max-w-xl bg-panel p-4">
          <Conditions twoAtOnce={false} words={words} result={null} problem={refusal} onWords={desk.say} />
        </section>
      ) : (
        <div className="h-96 bg-panel waiting" aria-busy="true" />
      )}
    </main>
  );
}

/** The dose for these hours against the dough's own. */
function Dose({ desk, told }: { desk: Desk; told: Told }) {
  const mixed = desk.steps.fixed.some((f) => f.step === "mix" && f.done);
  const own = told.dough_yeast_pct;
  const differs = own != null && Math.abs(told.result.yeast_pct / own - 1) > DOSE_DIFFERS;
  return <DoseLine desk={desk} told={told} wants={!mixed && told.result.feasible && differs} mixed={mixed} />;
}

/** Steps that should be done by now: were they? */
function Overdue({ desk }: { desk: Desk }) {
  return (
    <p
      role="status"
      className="flex flex-wrap items-baseline gap-3 border-l-2 border-brick pl-2 print:hidden"
    >
      <span className="font-semibold">
        {desk.steps.overdue.map((s) => `${s.name}, ${dayAndClock(s.at)}`).join("; ")}: was it done?
      </span>
      <Button onClick={desk.steps.asPlanned}>Done as planned</Button>
      <Button onClick={desk.layOut}>Not yet: lay it out again from now</Button>
    </p>
  );
}
