import type { ReactNode } from "react";
import { crustWord, type Reference } from "./crust";
import { valueAt } from "./interpolate";
import { bakeTime, clockAfter } from "./time";
import { Band } from "./StripBand";
import { FlagMark, type Flag } from "./StripFlag";
import { StripDefs, StripTicks } from "./StripGround";
import { HeatOn, Pull, WindowGround, WindowWords } from "./StripHandles";
import {
  BANDS,
  BANDS_END,
  bandY,
  heightOf,
  inFlagLanes,
  PLOT,
  stripScale,
  type StripData,
} from "./stripScale";
import { StripTemperatures } from "./StripTemperatures";
import { useUnits } from "./units";
import { useWidth } from "./useWidth";

export type { StripData, Traces } from "./stripScale";

/** One time axis from heat on to pull: temperatures above, crust colours below, flags and the pull. */
export function Strip({
  data,
  reference,
  handleS,
  flags,
  onScrub,
  onPreheat,
  onDrag,
  corner,
}: {
  data: StripData;
  reference: Reference;
  handleS: number;
  flags: readonly Flag[];
  onScrub: (t: number) => void;
  onPreheat: (minutes: number) => void;
  onDrag: (dragging: boolean) => void;
  /** What stands in the free corner under the preheat. */
  corner: ReactNode;
}) {
  const units = useUnits();
  const [ref, width] = useWidth(1100);
  const { traces } = data;
  const scale = stripScale(data, width);
  const { launchX, pre, x, end, right } = scale;
  const now = (values: readonly number[]) => valueAt(traces.t_s, values, handleS);
  const placed = inFlagLanes(flags, scale, handleS);
  const height = heightOf(1 + Math.max(0, ...placed.map((one) => one.lane)));
  const bands = [
    { name: "base", values: traces.base_l },
    { name: "rim", values: traces.rim_l },
    { name: "cheese", values: traces.cheese_l },
  ];
  const say = `Pull at ${bakeTime(handleS)}: base ${crustWord(reference.words, now(traces.base_l))}, rim ${crustWord(reference.words, now(traces.rim_l))}, crumb ${units.temp(now(traces.core_c))}`;
  return (
    <div className="w-full overflow-x-auto" data-scrolls>
      <div ref={ref} className="relative w-full min-w-[760px]">
        <svg
          width={width}
          height={height}
          viewBox={`0 0 ${String(width)} ${String(height)}`}
          className="block touch-none select-none"
          role="group"
          aria-label={`From heat on at ${clockAfter(data.launchClock, -data.preheatMin * 60)} to the pull. ${say}.`}
        >
          <StripDefs bands={bands} data={data} scale={scale} reference={reference} />
          <StripTicks data={data} scale={scale} />
          <WindowGround data={data} scale={scale} />
          <StripTemperatures data={data} scale={scale} handleS={handleS} />
          <HeatOn data={data} scale={scale} onPreheat={onPreheat} onDrag={onDrag} />
          {bands.map((band, i) => (
            <Band
              key={band.name}
              name={band.name}
              values={band.values}
              times={traces.t_s}
              end={end}
              x={x}
              y={bandY(i)}
              labelX={launchX - 12}
              reference={reference}
            />
          ))}
          <rect
            x={launchX}
            y={PLOT.top}
            width={Math.max(0, right - launchX)}
            height={BANDS_END - PLOT.top}
            fill="transparent"
            className="cursor-crosshair"
            onClick={(e) => {
              const box = e.currentTarget.getBoundingClientRect();
              onScrub(scale.clamp(((e.clientX - box.left) / box.width) * end));
            }}
          />
          <WindowWords data={data} scale={scale} />
          {placed.map((one) => (
            <FlagMark
              key={one.flag.key}
              {...one}
              from={BANDS.top}
              invert={(px) => (px < launchX ? Math.min(0, pre.invert(px)) : x.invert(px))}
              onDrag={onDrag}
            />
          ))}
          <Pull data={data} scale={scale} height={height} handleS={handleS} say={say} onScrub={onScrub} />
        </svg>
        <div
          className="absolute bottom-2 left-0 px-4 pb-1 text-[13px]"
          style={{ maxWidth: Math.max(200, launchX - 76) }}
        >
          {corner}
        </div>
      </div>
    </div>
  );
}
