import { Popover } from "radix-ui";
import type { Controls, PlanResult, Preview } from "./types";

interface Handling {
  key: keyof Controls | "down";
  name: string;
  on: boolean;
  toggle: () => void;
}

function five(seconds: number): number {
  return Math.max(15, Math.round(seconds / 5) * 5);
}

/** A deck of the kitchen's on another level: above, as a ceiling, or below, for the pizza to go down onto. */
function secondDecks(
  controls: Controls,
  ask: Preview["ask"],
  can: (method: string) => boolean,
  set: (next: Partial<Controls>, named?: string) => void,
  done: number,
): Handling[] {
  const spare = ask.spares?.[0];
  if (!spare) return [];
  const levels = ask.hearth?.levels ?? 5;
  const deck = {
    kind: spare.kind as NonNullable<Controls["overhead"]>["kind"],
    thickness_mm: spare.thickness_mm ?? 10,
  };
  const second = controls.overhead ?? null;
  const below = second !== null && second.level < controls.level;
  const found: Handling[] = [];
  if (controls.level < levels && !below)
    found.push({
      key: "overhead",
      name: "a second deck above",
      on: second !== null,
      toggle: () => {
        const overhead = { ...deck, level: Math.min(levels, controls.level + 2) };
        set(second ? { overhead: null } : { overhead, top_element: null }, "overhead");
      },
    });
  if (below || (second === null && can("down onto a second deck")))
    found.push({
      key: "down",
      name: "begin high, then down onto a second deck",
      on: below,
      toggle: () => {
        const high = levels - 1;
        const low = Math.max(1, high - 2);
        const move = { at_s: five(0.45 * done), level: low };
        set(
          below
            ? { overhead: null, move: null }
            : { level: high, overhead: { ...deck, level: low }, move, shield: null },
          "overhead",
        );
      },
    });
  return found;
}

/** What hands can do on this rig beside setting the dial; each can be added and taken away. */
export function handlingsOf(
  controls: Controls,
  ask: Preview["ask"],
  result: PlanResult,
  set: (next: Partial<Controls>, named?: string) => void,
): Handling[] {
  const done = result.result.likely_done_s;
  const levels = ask.hearth?.levels ?? 5;
  const oven = result.fire == null;
  const can = (method: string) => (result.methods ?? []).includes(method);
  const found: Handling[] = [];
  const add = (key: keyof Controls, name: string, fresh: Partial<Controls>, also: Partial<Controls> = {}) => {
    const on = controls[key] != null;
    found.push({
      key,
      name,
      on,
      toggle: () => {
        set(on ? { [key]: null } : { ...fresh, ...also }, key);
      },
    });
  };
  add("turn_s", "turn", { turn_s: five(0.55 * done) });
  if (oven && levels >= 2) {
    const to =
      controls.level >= (levels + 1) / 2
        ? Math.max(1, controls.level - 2)
        : Math.min(levels, controls.level + 2);
    if ((can("shield") && controls.level < levels) || controls.shield != null)
      add("shield", "a shield above", {
        shield: { on_s: five(0.55 * done), off_s: five(1.8 * done) },
        top_element: null,
      });
    if (can("moved between levels") || controls.move != null)
      add("move", `move to level ${String(to)}`, { move: { at_s: five(0.5 * done), level: to } });
  }
  if (can("par-bake")) {
    const once = { par_bake_s: null, cheese_s: null };
    add("par_bake_s", "top it later (par-bake)", { ...once, par_bake_s: five(0.35 * done) });
    add("cheese_s", "cheese later", { ...once, cheese_s: five(0.4 * done) });
  }
  if (ask.parchment && !ask.pan)
    add("paper_out_s", "slide the paper out", { paper_out_s: Math.min(120, five(0.4 * done)) });
  if (can("preheated tray") || controls.hot_pan)
    found.push({
      key: "hot_pan",
      name: "heat the tray empty",
      on: controls.hot_pan ?? false,
      toggle: () => {
        set({ hot_pan: !controls.hot_pan });
      },
    });
  if (can("hob start")) add("hob_s", "start on the hob", { hob_s: 120 });
  if (oven) found.push(...secondDecks(controls, ask, can, set, done));
  return found;
}

/** The handlings as a list to tick, opened in place. */
export function Handlings({
  handlings,
  cheese,
  onCheese,
}: {
  handlings: readonly Handling[];
  cheese: Controls["cheese"];
  onCheese: (cheese: Controls["cheese"]) => void;
}) {
  return (
    <Popover.Root>
      <Popover.Trigger className="quiet" data-part="handlings">
        Do more …
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="What you could do during the bake"
          align="start"
          side="top"
          sideOffset={6}
          className="leaf z-20 grid w-64 gap-1 p-3"
        >
          {handlings.map((h) => (
            <label key={h.key} className="flex items-center gap-2 py-0.5">
              <input type="checkbox" checked={h.on} onChange={h.toggle} data-handling={h.key} />
              {h.name}
            </label>
          ))}
          <label className="mt-1 flex items-center gap-2 border-t border-line pt-2">
            cheese
            <select
              className="field px-1"
              value={cheese ?? "room"}
              onChange={(e) => {
                onCheese(e.target.value as Controls["cheese"]);
              }}
            >
              <option value="room">at room temperature</option>
              <option value="fridge">from the fridge</option>
              <option value="frozen">frozen</option>
            </select>
          </label>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
