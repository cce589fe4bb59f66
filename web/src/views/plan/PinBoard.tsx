import { Button } from "../../ui/Button";
import { scaleLinear } from "@visx/scale";
import { crustColour, crustWord, inkOn, type Reference } from "../../ui/crust";
import { valueAt } from "../../ui/interpolate";
import { axisTime, bakeTime } from "../../ui/time";
import { useWidth } from "../../ui/useWidth";
import type { Pin } from "./usePins";

const BAND = 17;
const LANE = 3 * BAND + 26;

/** What differs between pinned variants: the rest would only hide it. */
export function differing(pins: readonly Pin[]): string[] {
  const names = [...new Set(pins.flatMap((p) => Object.keys(p.facts)))];
  return pins.length < 2 ? names : names.filter((n) => new Set(pins.map((p) => p.facts[n] ?? "")).size > 1);
}

/** Pinned variants under each other on one time axis, with only what differs between them. */
export function PinBoard({
  pins,
  reference,
  onUnpin,
  onTake,
}: {
  pins: readonly Pin[];
  reference: Reference;
  onUnpin: (id: number) => void;
  onTake: (pin: Pin) => void;
}) {
  const [ref, width] = useWidth(780);
  const end = Math.max(120, ...pins.map((p) => Math.min(p.t_s.at(-1) ?? 600, 1.25 * p.lateS)));
  const x = scaleLinear<number>({ domain: [0, end], range: [8, width - 10] });
  const tick = end > 1200 ? 240 : end > 620 ? 120 : end > 200 ? 60 : 20;
  const names = differing(pins);
  if (pins.length === 0)
    return <p className="p-5 text-ash">Nothing pinned yet: p pins the plan as it stands, up to three.</p>;
  return (
    <div
      className="grid max-h-[300px] grid-cols-[minmax(300px,390px)_1fr] overflow-y-auto px-4 py-2"
      data-testid="pins"
    >
      <span className="self-end pb-1 text-[13px] text-ash">
        {pins.length > 1 ? "only what differs" : "pin another to compare"}
      </span>
      <div ref={ref}>
        <svg width={width} height="20" aria-hidden className="block">
          {Array.from({ length: Math.floor(end / tick) + 1 }, (_, i) => (
            <text
              key={i}
              x={x(i * tick)}
              y="14"
              fontSize="12"
              fill="var(--ash)"
              textAnchor={i === 0 ? "start" : "middle"}
            >
              {i === 0 ? "launch" : axisTime(i * tick)}
            </text>
          ))}
        </svg>
      </div>
      {pins.map((pin) => (
        <div key={pin.id} className="contents" data-pin={pin.id}>
          <div className="border-t border-line py-1.5 pr-3 text-[13px] leading-snug">
            <p className="flex items-baseline gap-3">
              <b className="text-[14px]">
                {pin.word}, {bakeTime(pin.doneS)}
              </b>
              <Button
                look="link"
                className="ml-auto text-air"
                onClick={() => {
                  onTake(pin);
                }}
              >
                take this
              </Button>
              <Button
                look="link"
                className="text-brick"
                onClick={() => {
                  onUnpin(pin.id);
                }}
              >
                unpin
              </Button>
            </p>
            <p>
              {names.map((n) => (
                <span key={n} className="mr-2.5 inline-block">
                  <span className="text-ash">{n}</span> {pin.facts[n] ?? "–"}
                </span>
              ))}
            </p>
          </div>
          <svg
            width={width}
            height={LANE}
            className="block border-t border-line"
            role="img"
            aria-label={`Pulled at ${bakeTime(pin.doneS)}, window ${bakeTime(pin.lookS)} to ${bakeTime(pin.lateS)}.`}
          >
            <rect
              x={x(pin.lookS)}
              y="2"
              width={Math.max(0, x(Math.min(end, pin.lateS)) - x(pin.lookS))}
              height={LANE - 4}
              fill="var(--brick-wash)"
            />
            {(["base_l", "rim_l", "cheese_l"] as const).map((key, row) => {
              const values = pin[key];
              const y = 4 + row * (BAND + 2);
              const steps = Array.from({ length: 60 }, (_, i) => (end * i) / 60);
              const last = pin.t_s.at(-1) ?? end;
              const done = valueAt(pin.t_s, values, pin.doneS);
              return (
                <g key={key}>
                  {steps
                    .filter((t) => t <= last)
                    .map((t) => (
                      <rect
                        key={t}
                        x={x(t)}
                        y={y}
                        width={(x(end) - x(0)) / 60 + 0.6}
                        height={BAND}
                        fill={crustColour(reference.ramp, valueAt(pin.t_s, values, t))}
                      />
                    ))}
                  <text x={x(0) + 5} y={y + 12.5} fontSize="11.5" fontWeight="650" fill={inkOn(84)}>
                    {["base", "rim", "cheese"][row]}
                  </text>
                  <text x={x(pin.doneS) + 6} y={y + 12.5} fontSize="11.5" fontWeight="650" fill={inkOn(done)}>
                    {crustWord(key === "cheese_l" ? reference.cheese_words : reference.words, done)}
                  </text>
                </g>
              );
            })}
            <line
              x1={x(pin.doneS)}
              x2={x(pin.doneS)}
              y1="0"
              y2={LANE - 16}
              stroke="var(--brick)"
              strokeWidth="2.2"
            />
            <text
              x={x(pin.doneS)}
              y={LANE - 4}
              fontSize="12"
              fontWeight="700"
              textAnchor="middle"
              fill="var(--brick)"
            >
              pull {bakeTime(pin.doneS)}
            </text>
          </svg>
        </div>
      ))}
    </div>
  );
}
