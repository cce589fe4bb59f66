import { Popover } from "radix-ui";
import type { Kinds } from "../../ui/kinds";
import { useUnits } from "../../ui/units";
import { about } from "./about";
import { ThingDrawing } from "./ThingDrawing";
import { valuesOf, type Kitchen, type Noun, type Thing, type Values } from "./things";
import type { Shelves } from "./useShelves";

/** All things of one noun, drawn to one scale; more can be added. */
export function Shelf({
  noun,
  title,
  one,
  kitchen,
  kinds,
  offered,
  shelves,
}: {
  noun: Noun;
  title: string;
  one: string;
  kitchen: Kitchen;
  kinds: Kinds;
  /** Generic things to begin from. */
  offered: readonly Values[];
  shelves: Shelves;
}) {
  const things: readonly Thing[] = kitchen[noun];
  return (
    <section aria-label={title}>
      <div className="flex items-baseline gap-3 border-b border-line pb-1">
        <h2 className="text-[17px] font-bold">{title}</h2>
        <Popover.Root>
          <Popover.Trigger className="quiet">
            Add {/^[aeiou]/.test(one) ? "an" : "a"} {one}
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="start"
              sideOffset={4}
              aria-label={`Add a ${one}`}
              className="leaf z-20 grid w-64 p-2"
            >
              {offered.map((values) => (
                <Popover.Close
                  key={values.name}
                  className="px-3 py-1.5 text-left hover:bg-brick-wash"
                  onClick={() => {
                    shelves.adding.mutate({ noun, values });
                  }}
                >
                  {values.name}
                </Popover.Close>
              ))}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </div>
      <ul className="flex flex-wrap items-end gap-x-2 gap-y-1">
        {things.map((thing) => (
          <OnShelf
            key={thing.id}
            noun={noun}
            thing={thing}
            kitchen={kitchen}
            kinds={kinds}
            shelves={shelves}
          />
        ))}
        {things.length === 0 ? <li className="py-3 text-ash">None yet; add one.</li> : null}
      </ul>
    </section>
  );
}

function OnShelf({
  noun,
  thing,
  kitchen,
  kinds,
  shelves,
}: {
  noun: Noun;
  thing: Thing;
  kitchen: Kitchen;
  kinds: Kinds;
  shelves: Shelves;
}) {
  const units = useUnits();
  const here = shelves.chosen?.noun === noun && shelves.chosen.id === thing.id;
  return (
    <li>
      <button
        type="button"
        data-thing={thing.name}
        aria-pressed={here}
        className={`grid justify-items-start gap-1 p-2 text-left ${here ? "bg-panel shadow-[inset_0_0_0_2.5px_var(--brick)]" : "hover:bg-panel"}`}
        onClick={() => {
          shelves.choose({ noun, id: thing.id });
        }}
      >
        <ThingDrawing noun={noun} values={valuesOf(noun, thing)} />
        <span className="font-semibold">{thing.name}</span>
        <span className="text-[12.5px] leading-tight text-ash">{about(noun, thing, kinds, units)}</span>
        {kitchen.notes
          .filter((n) => n.noun === noun && n.id === thing.id)
          .map((n) => (
            <span key={n.text} className="max-w-52 text-[12.5px] leading-tight font-semibold text-brick">
              {units.say(n.text)}
            </span>
          ))}
      </button>
    </li>
  );
}
