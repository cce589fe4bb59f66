import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { server } from "../../api/queries";
import { useUndo } from "../../app/Undo";
import type { Kinds } from "../../ui/kinds";
import { EditPanel } from "./EditPanel";
import { useKept } from "../../ui/useKept";
import type { Typed } from "./useEdited";
import { WaysOn } from "./WaysOn";
import { add, valuesOf, type Thing, type Values } from "./things";
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
  kinds,
  shelves,
}: {
  chosen: ChosenThing;
  open: Thing;
  kinds: Kinds;
  shelves: Shelves;
}) {
  const offerUndo = useUndo();
  const { noun } = chosen;
  const { adding, changing, retiring } = shelves;
  const values = valuesOf(noun, open);
  const session = useQuery(server.session);
  const [draft, keep, , began] = useKept<Typed>(
    `thing ${session.data?.owner ?? ""} ${noun} ${String(chosen.id)}`,
    open.version,
  );
  const settled = () => {
    keep(null);
    shelves.settled();
  };
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    // On a narrow page the form lies below the shelves: it is gone to.
    if (!window.matchMedia("(max-width: 1023px)").matches) return;
    heading.current?.scrollIntoView({ block: "start" });
    heading.current?.focus({ preventScroll: true });
  }, [noun, chosen.id]);
  return (
    <>
      <h2 ref={heading} tabIndex={-1} className="scroll-mt-14 text-[17px] font-bold">
        {open.name}
        {draft ? (
          <span className="ml-2 text-[13px] font-normal text-brick">changed, not kept yet</span>
        ) : null}
      </h2>
      <EditPanel
        key={`${noun}${String(chosen.id)}`}
        noun={noun}
        kinds={kinds}
        values={values}
        busy={changing.isPending}
        problem={changing.error}
        draft={draft}
        keep={keep}
        onForget={settled}
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
      <WaysOn noun={noun} thing={open} kinds={kinds} />
    </>
  );
}
