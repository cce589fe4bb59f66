import { useUndo } from "../../app/Undo";
import { hearthKind, type Kinds } from "../../ui/kinds";
import { CalibratePanel } from "./CalibratePanel";
import { EditPanel } from "./EditPanel";
import { LivePanel } from "./LivePanel";
import { add, valuesOf, type Hearth, type Instrument, type Kitchen, type Thing, type Values } from "./things";
import type { Chosen as ChosenThing, Shelves } from "./useShelves";

const MOST_NAME = 60;

/** A copy's name. */
function named(values: Values, word: string): Values {
  return { ...values, name: `${values.name}, ${word}`.slice(0, MOST_NAME) };
}

/** The chosen thing's figures, and what else it can do. */
export function Chosen({
  chosen,
  open,
  kitchen,
  kinds,
  shelves,
}: {
  chosen: ChosenThing;
  open: Thing;
  kitchen: Kitchen;
  kinds: Kinds;
  shelves: Shelves;
}) {
  const offerUndo = useUndo();
  const { noun } = chosen;
  const { adding, changing, retiring, began, settled } = shelves;
  const values = valuesOf(noun, open);
  return (
    <>
      <EditPanel
        key={`${noun}${String(chosen.id)}.${String(began ?? open.version)}`}
        noun={noun}
        kinds={kinds}
        values={values}
        busy={changing.isPending}
        problem={changing.error}
        onTouch={() => {
          shelves.setBegan(began ?? open.version);
        }}
        onBoth={(mine) => {
          adding.mutate({ noun, values: named(mine, "mine") }, { onSuccess: settled });
        }}
        onMine={(mine, theirs) => {
          void add(noun, named(valuesOf(noun, theirs), "the other")).then(() => {
            changing.mutate({ ...chosen, values: mine, version: theirs.version }, { onSuccess: settled });
          });
        }}
        onTheirs={(mine) => {
          settled();
          void shelves.again();
          offerUndo({
            text: "What you had changed is put aside.",
            undo: () => {
              adding.mutate({ noun, values: named(mine, "mine") });
            },
          });
        }}
        onSave={(to) => {
          changing.mutate({ ...chosen, values: to, version: began ?? open.version }, { onSuccess: settled });
        }}
        onDuplicate={() => {
          adding.mutate({ noun, values: named(values, "second") });
        }}
        onRetire={() => {
          retiring.mutate({ ...chosen, name: open.name, version: open.version });
        }}
      />
      {noun === "instruments" && (open as Instrument).kind === "wireless" ? (
        <LivePanel key={open.id} instrument={open as Instrument} kitchen={kitchen} kinds={kinds} />
      ) : null}
      {noun === "hearths" && hearthKind(kinds, (open as Hearth).kind)?.heat === "dial" ? (
        <CalibratePanel key={open.id} hearth={open as Hearth} kitchen={kitchen} />
      ) : null}
    </>
  );
}
