import { useState, type ComponentType } from "react";
import { Link } from "react-router";
import { FoldDown } from "../ui/FoldDown";
import { useUnits } from "../ui/units";
import { partPath } from "./draft";
import { DoughPart, WhatPart, WhenPart, WherePart, type LinePart } from "./LineParts";
import type { Headline, Part } from "./types";
import type { SupperAtHand } from "./useSupper";

/** The parts of the line, what changes each in place, and the view that shows all of it. */
const PARTS: readonly {
  key: keyof Headline;
  asks: string;
  of: ComponentType<LinePart>;
  part: Part;
  view: string;
}[] = [
  { key: "when", asks: "when it is eaten", of: WhenPart, part: "timeline", view: "Timeline" },
  { key: "what", asks: "what it is", of: WhatPart, part: "dough", view: "Dough" },
  { key: "where", asks: "where it is baked", of: WherePart, part: "plan", view: "Plan" },
  { key: "dough", asks: "its dough", of: DoughPart, part: "dough", view: "Dough" },
];

/** The supper in one line, the same in every view; each part is changed where it stands. */
export function SupperLine({ supper }: { supper: SupperAtHand }) {
  const { headline } = supper;
  if (!headline) return <p className="h-[1.5em] text-[14px]" aria-hidden />;
  return (
    <p data-testid="headline" className="text-[14px] leading-snug text-ash print:hidden">
      {PARTS.map((one, i) => (
        <span key={one.key}>
          {i > 0 ? " · " : ""}
          <ChangedInPlace supper={supper} said={headline[one.key]} one={one} />
        </span>
      ))}
    </p>
  );
}

function ChangedInPlace({
  supper,
  said: text,
  one,
}: {
  supper: SupperAtHand;
  said: string;
  one: (typeof PARTS)[number];
}) {
  const units = useUnits();
  const said = units.say(text);
  const [open, setOpen] = useState(false);
  return (
    <FoldDown
      part={`line-${one.key}`}
      label={`Change ${one.asks}`}
      said={`${one.asks}: ${said}`}
      shown={said}
      look="font-semibold text-air underline decoration-line underline-offset-4 hover:decoration-air text-left"
      open={open}
      onOpenChange={setOpen}
      className="grid max-h-[70vh] w-80 gap-2 overflow-y-auto p-3"
    >
      <one.of
        supper={supper}
        done={() => {
          setOpen(false);
        }}
      />
      <Link
        className="text-[13px] text-air underline underline-offset-2"
        to={partPath(supper.place, one.part)}
        onClick={() => {
          setOpen(false);
        }}
      >
        all of it, in {one.view}
      </Link>
    </FoldDown>
  );
}

/** The same line where nothing of it is changed: at the oven, as the supper was when its heat went on. */
export function SupperSaid({ headline }: { headline: Headline }) {
  const units = useUnits();
  return (
    <p data-testid="headline" className="hidden text-[13px] text-ash md:block">
      {PARTS.map(({ key }) => units.say(headline[key])).join(" · ")}
    </p>
  );
}
