import { Button } from "../../ui/Button";
import { NameAndSave } from "../../ui/NameAndSave";
import { Picker } from "../../ui/Picker";
import { useUnits } from "../../ui/units";
import { SetupsMenu } from "../../supper/Library";
import { SuppersMenu } from "../../supper/SuppersMenu";
import { methodChoices } from "./facts";
import type { Laid } from "./usePlanDesk";

/** How good it gets and by which method; its name, and saving it. */
export function PlanTop({ desk }: { desk: Laid }) {
  const { draft, played, saved, saving, supper } = desk;
  const units = useUnits();
  return (
    <div className="grid content-start justify-items-start gap-1 md:w-[24.5rem] md:justify-items-end md:text-right">
      <p className="font-display text-[18px] leading-tight font-bold">{played.result.word}</p>
      {played.result.hindrance && !played.result.result.no_pull ? (
        <p className="text-[13px] leading-tight text-ash">{units.say(played.result.hindrance)}</p>
      ) : null}
      {played.result.result.no_pull ? (
        <p role="alert" className="font-semibold text-brick">
          {units.say(played.result.result.no_pull)}
        </p>
      ) : null}
      <p className="font-display text-[15px] leading-snug font-semibold">
        by{" "}
        <Picker
          label="method"
          shown={played.result.method}
          value={draft.sentence.method ?? null}
          choices={methodChoices(played.result, desk.options)}
          onPick={(method) => {
            desk.change({ method }, true);
          }}
          more={
            <label className="mt-2 flex items-center gap-2 border-t border-line px-3 pt-3 pb-1 font-sans text-[14px] font-normal">
              <input
                type="checkbox"
                checked={draft.sentence.formula_free ?? false}
                onChange={(e) => {
                  desk.change({ formula_free: e.target.checked }, true);
                }}
              />
              the dough may be changed, too
            </label>
          }
        />
      </p>
      <SetBy desk={desk} />
      <NameAndSave
        label="Name of the supper"
        name={draft.name}
        usual={supper.usual}
        saved={saving.untouched}
        held={saving.held}
        wide="w-24 text-[13px]"
        onName={(name) => {
          desk.setDraft({ ...draft, name });
        }}
        onSave={saving.doSave}
      >
        {supper.draft.dough ? null : <Button onClick={desk.makeDough}>Its dough</Button>}
        <SetupsMenu supper={supper} plan={{ sentence: draft.sentence, controls: desk.controls }} />
        <SuppersMenu openId={supper.saved?.id ?? null} part="plan" />
      </NameAndSave>
      {supper.touched ? (
        <Button
          look="link"
          className="text-[13px] text-air"
          onClick={() => {
            desk.moment.to(null);
            saving.beginAgain();
          }}
        >
          {supper.saved ? "back to the supper as saved" : "begin again"}
        </Button>
      ) : null}
      {saved && saved.engine !== saved.engine_now ? (
        <p className="text-[13px] text-ash">made with engine {saved.engine}</p>
      ) : null}
      {saving.problem ? (
        <p role="alert" className="text-brick">
          {saving.problem.message}
        </p>
      ) : null}
    </div>
  );
}

/** Whether the cook set it, with a way back; else what came second. */
function SetBy({ desk }: { desk: Laid }) {
  const { draft, played } = desk;
  return (
    <p className="text-[13px] leading-snug text-ash">
      {draft.controls && !desk.untouched ? (
        <Button look="link" className="font-semibold text-air" onClick={desk.chooseControls}>
          set by you; let Mattone choose
        </Button>
      ) : played.result.runner_up ? (
        `runner-up: ${played.result.runner_up}`
      ) : null}
    </p>
  );
}
