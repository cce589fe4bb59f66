import { Tabs } from "radix-ui";
import { useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { draftOf } from "../../supper/draft";
import { SupperLine } from "../../supper/SupperLine";
import type { SupperAtHand } from "../../supper/useSupper";
import { Caution } from "../../ui/Caution";
import type { Reference } from "../../ui/crust";
import type { StyleLine } from "../../ui/styles";
import { useUnits } from "../../ui/units";
import { Versions } from "../../ui/Versions";
import { useBeside } from "../../supper/useBeside";
import { BatchSheet } from "./BatchSheet";
import { BesidePanel } from "./BesidePanel";
import { DoughHead, DoughTop } from "./DoughHead";
import { FormulaPanel } from "./FormulaPanel";
import { MeasurePanel } from "./MeasurePanel";
import { OvenPanel } from "./OvenPanel";
import { PastePanel } from "./PastePanel";
import { RiseTab } from "./RiseTab";
import type { Batch, DoughInput, DoughReference, Kitchen } from "./types";
import { useDoughDesk, type Desk } from "./useDoughDesk";
import { WaterPanel } from "./WaterPanel";

const TWO_COLUMNS = "grid gap-3 md:grid-cols-[minmax(0,478fr)_minmax(0,660fr)] print:hidden";
const TABS = [
  ["rise", "How far it has risen"],
  ["paste", "Paste a recipe"],
  ["measure", "Measure"],
] as const;

export function DoughDesk(props: {
  supper: SupperAtHand;
  reference: Reference;
  styles: readonly StyleLine[];
  things: DoughReference;
  kitchen: Kitchen;
  start: DoughInput;
}) {
  const { supper, reference, styles, things, kitchen } = props;
  const desk = useDoughDesk(props);
  const { draft, told, saving } = desk;
  const beside = useBeside(supper) ?? [];
  if (!told) return <NothingYet desk={desk} />;
  const { theirs } = saving;
  return (
    <main
      className="flex flex-col gap-2.5 px-5 py-3.5 md:min-h-full"
      data-played={desk.stale ? "old" : "now"}
    >
      <SupperLine supper={supper} />
      <header className="grid gap-3 md:grid-cols-[1fr_auto] print:hidden">
        <DoughHead desk={desk} styles={styles} things={things} kitchen={kitchen} />
        <DoughTop desk={desk} />
      </header>
      {theirs ? (
        <Versions
          noun="supper"
          mine={{ ...supper.draft, name: desk.title }}
          theirs={draftOf(theirs)}
          saving={saving}
        />
      ) : null}
      <div className={TWO_COLUMNS}>
        <Formula desk={desk} told={told} things={things} beside={beside} />
        <Tabs.Root defaultValue="rise" className="flex min-h-0 min-w-0 flex-col bg-panel p-4 pt-3">
          <Tabs.List aria-label="Rise, paste, measure" className="flex flex-wrap">
            {TABS.map(([key, name]) => (
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
            <RiseTab desk={desk} told={told} things={things} kitchen={kitchen} />
          </Tabs.Content>
          <Tabs.Content value="paste" className="min-h-0 pt-3">
            <PastePanel
              owner={supper.owner}
              dough={draft.dough}
              now={told}
              things={things}
              onDough={desk.rework}
            />
          </Tabs.Content>
          <Tabs.Content value="measure" className="pt-3">
            <MeasurePanel things={things} />
          </Tabs.Content>
        </Tabs.Root>
      </div>
      <div className={TWO_COLUMNS}>
        <WaterPanel dough={draft.dough} told={told} onDough={desk.rework} />
        <OvenPanel dough={draft.dough} supper={supper} reference={reference} onDough={desk.rework} />
      </div>
      <BatchSheet draft={draft} told={told} title={desk.title} beside={beside} />
    </main>
  );
}

/** The formula; a figure being typed starts from the dough as it was when the field was entered. */
function Formula({
  desk,
  told,
  things,
  beside,
}: {
  desk: Desk;
  told: Batch;
  things: DoughReference;
  beside: readonly Schemas["BesideItem"][];
}) {
  const units = useUnits();
  const { draft, batch } = desk;
  const [hold, setHold] = useState<"dough" | "flour">("flour");
  const base = useRef(draft.dough);
  return (
    <section aria-label="The formula" className="min-w-0 overflow-x-auto bg-panel p-4 pt-3 max-md:px-2.5">
      <FormulaPanel
        dough={draft.dough}
        told={told}
        things={things}
        problem={batch.problem}
        hold={hold}
        onHold={setHold}
        onDough={desk.rework}
        onBegin={() => {
          base.current = draft.dough;
        }}
        onChange={(where, change) =>
          void batch.ask(where, { dough: change.what === "swap" ? draft.dough : base.current, change })
        }
        waterC={units.temp(told.water.water_c)}
        foot={
          <>
            {told.cautions.map((c) => (
              <Caution key={c} text={c} />
            ))}
            <BesidePanel dough={draft.dough} items={beside} onDough={desk.rework} />
          </>
        }
      />
    </section>
  );
}

/** Before the first answer, or where a draft cannot be worked out at all. */
function NothingYet({ desk }: { desk: Desk }) {
  const units = useUnits();
  return (
    <main className="grid gap-4 p-5">
      <h1 className="font-display text-2xl font-bold">Dough</h1>
      {desk.batch.refusal ? (
        <p role="alert" className="text-brick">
          {units.say(desk.batch.refusal.message)}{" "}
          <button type="button" className="underline" onClick={desk.begin}>
            Begin again
          </button>
        </p>
      ) : (
        <div className="h-96 bg-panel waiting" aria-busy="true" />
      )}
    </main>
  );
}
