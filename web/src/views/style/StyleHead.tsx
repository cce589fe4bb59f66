import { useState } from "react";
import { Link } from "react-router";
import { useUndo } from "../../app/Undo";
import { Button } from "../../ui/Button";
import type { OwnStyle, StyleBody } from "../../ui/styles";
import { useUnits } from "../../ui/units";
import type { useStyleSaving } from "./useStyleSaving";

/** A style's name, and keeping, leaving or retiring it. */
export function StyleHead({
  own,
  style,
  draft,
  keep,
  saving: { keeping, retiring },
}: {
  own: OwnStyle | null;
  style: StyleBody;
  /** What was changed and not kept yet. */
  draft: StyleBody | null;
  keep: (draft: StyleBody | null) => void;
  saving: ReturnType<typeof useStyleSaving>;
}) {
  const units = useUnits();
  const offerUndo = useUndo();
  const [nameless, setNameless] = useState(false);
  const problem = keeping.error ?? retiring.error;
  return (
    <form
      id="style"
      aria-label="A style of your own"
      className="flex flex-wrap items-end justify-between gap-3 lg:col-span-2"
      onSubmit={(e) => {
        e.preventDefault();
        setNameless(!style.name.trim());
        if (style.name.trim()) keeping.mutate(style);
      }}
    >
      <div className="grid min-w-0 basis-full gap-1 md:flex-1 md:basis-0">
        <h1 className="text-[13px] text-ash">
          {own ? "A style of your own" : "Make a style of your own from this one"}
        </h1>
        <input
          aria-label="name of the style"
          className="min-w-0 border-b-2 border-soot bg-transparent font-display text-[28px] leading-tight font-bold"
          maxLength={60}
          aria-invalid={nameless}
          value={style.name}
          onChange={(e) => {
            setNameless(false);
            keep({ ...style, name: e.target.value });
          }}
        />
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <Button type="submit" look="press" disabled={keeping.isPending || (own !== null && draft === null)}>
          {own && draft === null ? "Kept" : own ? "Keep" : "Keep it as my own"}
        </Button>
        {draft ? (
          <Button
            onClick={() => {
              keep(null);
              keeping.reset();
              offerUndo({
                text: `What you had changed of ${style.name} is put aside.`,
                undo: () => {
                  keep(draft);
                },
              });
            }}
          >
            Leave it
          </Button>
        ) : null}
        {own ? (
          <Button
            onClick={() => {
              retiring.mutate(own);
            }}
          >
            Retire it
          </Button>
        ) : null}
        <Link className="px-1 py-2 text-air underline underline-offset-2" to="/match">
          back to the board
        </Link>
      </div>
      {nameless || problem ? (
        <p role="alert" className="w-full text-brick">
          {nameless ? "Give it a name." : units.say(problem?.message ?? "")}
        </p>
      ) : null}
    </form>
  );
}
