import { draftOf, eatenAt } from "../../supper/draft";
import { SupperLine } from "../../supper/SupperLine";
import type { SupperAtHand } from "../../supper/useSupper";
import type { Reference } from "../../ui/crust";
import type { StyleLine } from "../../ui/styles";
import { clockAfter } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { Versions } from "../../ui/Versions";
import { PlanDrawings } from "./PlanDrawings";
import { Pinned, PlanStrip } from "./PlanStrip";
import { PlanTop } from "./PlanTop";
import { Refused } from "./Refused";
import { waysOut } from "./waysOut";
import { SentenceHead } from "./SentenceHead";
import type { Draft, Kitchen, Rigs } from "./types";
import { usePlanDesk, type Laid } from "./usePlanDesk";

/** From the pull to the first piece on the table, s. */
const REST_S = 150;

export function PlanDesk(props: {
  supper: SupperAtHand;
  reference: Reference;
  styles: readonly StyleLine[];
  kitchen: Kitchen;
  rigs: Rigs;
  first: Draft | null;
}) {
  const { supper, reference, styles, kitchen, rigs } = props;
  const units = useUnits();
  const desk = usePlanDesk(props);
  const { draft, played, traces, controls, refusal } = desk;
  if (!draft) return null;
  const head = (
    <SentenceHead
      sentence={draft.sentence}
      kitchen={kitchen}
      rigs={rigs}
      reference={reference}
      styles={styles}
      played={played}
      supper={supper}
      onChange={desk.change}
    />
  );
  const line = <SupperLine supper={supper} />;
  const refused = refusal ? (
    <Refused
      message={units.say(refusal.message)}
      waysOut={waysOut(refusal.path, draft, desk.change, desk.chooseControls)}
      onAgain={desk.again}
    />
  ) : null;
  if (!played || !traces || !controls)
    return (
      <main className="grid gap-4 p-5">
        {line}
        {head}
        {refused ?? <div className="h-96 bg-panel waiting" aria-busy="true" />}
      </main>
    );
  const laid: Laid = { ...desk, draft, played, traces, controls };
  const launch = clockAfter(
    eatenAt(supper.draft, draft.sentence),
    -(played.result.result.likely_done_s + REST_S),
  );
  const { theirs } = desk.saving;
  return (
    <main
      className="flex flex-col gap-2 px-5 pt-2.5 pb-3.5 md:h-full"
      data-played={desk.stale ? "old" : "now"}
    >
      {line}
      <header className="grid gap-3 md:grid-cols-[1fr_auto]">
        <div>
          <h1 className="sr-only">Plan</h1>
          {head}
          {refused}
        </div>
        <PlanTop desk={laid} />
      </header>
      {theirs ? (
        <Versions
          noun="supper"
          mine={{ ...supper.draft, name: desk.title }}
          theirs={draftOf(theirs)}
          saving={desk.saving}
        />
      ) : null}
      <PlanDrawings desk={laid} kitchen={kitchen} reference={reference} launch={launch} />
      {desk.pins.comparing ? <Pinned desk={laid} reference={reference} /> : null}
      <PlanStrip desk={laid} reference={reference} launch={launch} />
    </main>
  );
}
