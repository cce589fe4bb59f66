import { Figure } from "../../ui/Figure";
import { TempFigure } from "../../ui/TempFigure";
import { useUnits } from "../../ui/units";
import type { Batch, DoughInput } from "./types";

const MIXING = [
  ["none", "no kneading"],
  ["hand", "by hand"],
  ["mixer", "in a mixer"],
  ["processor", "in a processor"],
] as const;

type Mixing = (typeof MIXING)[number][0];
/** How long a machine usually runs, min; none by hand. */
const USUAL_MIN: Record<Mixing, number | null> = { none: null, hand: null, mixer: 8, processor: 1 };
const SPEEDS = ["low", "medium", "high"] as const;

/** How warm the water must be for the dough's wanted temperature. */
export function WaterPanel({
  dough,
  told,
  onDough,
}: {
  dough: DoughInput;
  told: Batch;
  onDough: (dough: DoughInput) => void;
}) {
  const units = useUnits();
  const water = dough.water;
  const us = units.us("temperature");
  const set = (to: Partial<NonNullable<DoughInput["water"]>>) => {
    onDough({ ...dough, water: { ...water, ...to } as DoughInput["water"] });
  };
  const field = (
    label: string,
    key: "wanted_c" | "flour_c" | "room_c" | "tap_c" | "preferment_c" | "given_c",
    low: number,
    high: number,
    usual: number,
  ) => (
    <p className="flex items-baseline justify-between gap-2">
      {label}
      <TempFigure
        label={`Temperature: ${label}`}
        value={water?.[key] ?? usual}
        digits={0}
        wide="w-10"
        bounds={[low, high]}
        onChange={(celsius) => {
          set({ [key]: celsius });
        }}
      />
    </p>
  );
  return (
    <section aria-label="Water" className="grid content-start gap-1 bg-panel p-4">
      <h2 className="text-[17px] font-bold">{units.say(told.water.say).split(/[:.]/)[0]}</h2>
      {units.say(told.water.say).includes(":") ? (
        <p className="text-[13px] leading-snug text-brick">{units.say(told.water.say)}</p>
      ) : null}
      {told.yeast_way ? <p className="text-[13px] leading-snug">{units.say(told.yeast_way)}</p> : null}
      <div className="grid gap-x-6 sm:grid-cols-2">
        {water?.given_c == null ? (
          field("dough wanted at", "wanted_c", 5, 40, 25)
        ) : (
          <>
            {field("water, as the recipe says", "given_c", 1, 60, 25)}
            <button
              type="button"
              className="justify-self-start text-[13px] text-air underline"
              onClick={() => {
                set({ given_c: null });
              }}
            >
              Calculate the water instead
            </button>
          </>
        )}
        {field("room", "room_c", -10, 45, 21)}
        {field("flour", "flour_c", -20, 45, 21)}
        {field("tap", "tap_c", 1, 40, 15)}
        {(dough.formula.preferments ?? []).length
          ? field("made before", "preferment_c", -5, 45, water?.room_c ?? 21)
          : null}
      </div>
      <label className="flex items-baseline justify-between gap-2">
        mixed
        <select
          aria-label="How it is mixed"
          className="border-b border-line bg-panel"
          value={water?.mixing ?? "hand"}
          onChange={(e) => {
            const mixing = e.target.value as Mixing;
            set({ mixing, friction_k: null, machine_min: USUAL_MIN[mixing] });
          }}
        >
          {MIXING.map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
        {water?.mixing === "mixer" || water?.mixing === "processor" ? (
          <Figure
            label="Minutes of mixing"
            value={water.machine_min ?? USUAL_MIN[water.mixing] ?? 8}
            digits={1}
            step={1}
            wide="w-8"
            unit="min"
            bounds={[0.2, 40]}
            onChange={(machine_min) => {
              set({ machine_min, friction_k: null });
            }}
          />
        ) : null}
        {water?.mixing === "mixer" ? (
          <select
            aria-label="Speed of the mixer"
            className="border-b border-line bg-panel"
            value={water.mixer_speed ?? "low"}
            onChange={(e) => {
              const mixer_speed = e.target.value as (typeof SPEEDS)[number];
              set({ mixer_speed, friction_k: null, machine_min: water.machine_min ?? USUAL_MIN.mixer });
            }}
          >
            {SPEEDS.map((speed) => (
              <option key={speed} value={speed}>
                {speed} speed
              </option>
            ))}
          </select>
        ) : null}
        <Figure
          label="Warmed by mixing"
          value={us ? told.water.friction_k * 1.8 : told.water.friction_k}
          digits={1}
          step={1}
          wide="w-10"
          unit={us ? "°F warmer" : "°C warmer"}
          bounds={us ? [0, 72] : [0, 40]}
          onChange={(value) => {
            set({ friction_k: Math.max(0, Math.min(40, us ? value / 1.8 : value)) });
          }}
        />
      </label>
    </section>
  );
}
