import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { server } from "../../api/queries";
import { partPath, withStyle } from "../../supper/draft";
import { RecipesMenu, useTaken } from "../../supper/Library";
import { rigsFor } from "../../supper/supports";
import { SuppersMenu } from "../../supper/SuppersMenu";
import { DeskTop } from "../../ui/DeskTop";
import { Picker } from "../../ui/Picker";
import type { StyleLine } from "../../ui/styles";
import { useUnits } from "../../ui/units";
import { PiecesPanel } from "./PiecesPanel";
import { PrefermentsPanel } from "./PrefermentsPanel";
import type { DoughInput, DoughReference, Kitchen } from "./types";
import type { Desk } from "./useDoughDesk";
import { WriteMenu } from "./WriteMenu";

/** The programme whose steps these are. */
function programmeOf(dough: DoughInput, things: DoughReference) {
  return things.programmes.find(
    (p) =>
      p.steps.length === dough.steps.length &&
      p.steps.every((h, i) => {
        const s = dough.steps[i];
        return s?.place === h.place && Math.abs(s.hours - h.hours) < 0.01;
      }),
  );
}

/** The dough in a sentence; what of it does not go, and its name. */
export function DoughHead({
  desk,
  styles,
  things,
  kitchen,
}: {
  desk: Desk;
  styles: readonly StyleLine[];
  things: DoughReference;
  kitchen: Kitchen;
}) {
  const units = useUnits();
  const { draft, batch, style } = desk;
  const { formula } = draft.dough;
  const programme = programmeOf(draft.dough, things);
  const pickProgramme = (key: string) => {
    const next = things.programmes.find((p) => p.key === key);
    if (!next) return;
    const steps = style?.shape === "pan" ? next.steps_in_pan : next.steps;
    // The hours alone: what yeast would suit them is offered where the rise is shown.
    void batch.ask("programme", { dough: { ...draft.dough, steps } });
  };
  const rigs = useQuery(server.rigs).data;
  const take = useTaken(desk.supper);
  const { plan } = desk.supper.draft;
  const pickStyle = (key: string) => {
    const picked = styles.find((s) => s.ownId === null && s.key === key);
    if (plan && rigs && picked) {
      // A supper has one style: of its dough, and of how it is baked.
      take(`It is ${picked.name} now.`, (was) => withStyle(was, picked, plan, rigsFor(picked, rigs)));
      return;
    }
    const known = key as NonNullable<DoughInput["formula"]["style"]>;
    desk.rework({ ...draft.dough, formula: { ...formula, style: known, own_style: null } });
  };
  return (
    <div>
      <h1 className="sr-only">Dough</h1>
      <p className="font-display text-[23px] leading-snug" id="sentence" tabIndex={-1}>
        Dough for{" "}
        <Picker
          label="style"
          shown={style?.name ?? formula.own_style?.name ?? "a style"}
          value={formula.style ?? "home_oven_round"}
          choices={styles
            .filter((s) => s.ownId === null)
            .map((s) => ({ value: s.key, label: s.name, note: s.about }))}
          onPick={pickStyle}
        />
        :{" "}
        <PiecesPanel
          dough={draft.dough}
          style={style}
          kitchen={kitchen}
          ways={desk.told?.offered_ways ?? []}
          onDough={desk.rework}
        />
        , with <PrefermentsPanel dough={draft.dough} things={things} onDough={desk.rework} />,{" "}
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
  );
}

/** Its name, saving it, and what else can be done with it. */
export function DoughTop({ desk }: { desk: Desk }) {
  const { draft, supper } = desk;
  return (
    <DeskTop
      noun="supper"
      name={supper.draft.name}
      usual={supper.usual}
      saving={desk.saving}
      touched={desk.touched}
      saved={supper.saved !== null}
      prints="the sheet"
      menu={
        <>
          <RecipesMenu supper={supper} dough={draft} usual={desk.usual} />
          <SuppersMenu openId={supper.saved?.id ?? null} part="dough" />
        </>
      }
      onName={(name) => {
        supper.change((was) => ({ ...was, name }));
      }}
      onBegin={desk.saving.beginAgain}
    >
      <WriteMenu draft={draft} name={desk.title} />
      <Link
        className="underline underline-offset-2"
        to={partPath(supper.place, "timeline")}
        onClick={desk.settleIn}
      >
        its days
      </Link>
    </DeskTop>
  );
}
