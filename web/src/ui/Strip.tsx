import type { ReactNode } from "react";
import { crustWord, type Reference } from "./crust";
import { valueAt } from "./interpolate";
import { bakeTime, clockAfter } from "./time";
import { Band } from "./StripBand";
import { FlagMark } from "./StripFlag";
import { StripDefs, StripTicks } from "./StripGround";
import { HeatOn, Pull, WindowGround } from "./StripHandles";
import { stripLayout } from "./stripLayout";
import { MomentLine, StripMarks } from "./StripMarks";
import { PLOT } from "./stripScale";
import { StripTemperatures } from "./StripTemperatures";
import type { Flag, StripData } from "./stripTypes";
import { useUnits } from "./units";
import { useWidth } from "./useWidth";

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
  const layout = stripLayout(data, flags, width);
  const { scale, bandY, bandsEnd, height } = layout;
  const { launchX, pre, x, end, right } = scale;
  const now = (values: readonly number[]) => valueAt(traces.t_s, values, handleS);
  const bands = [
    { name: "base", values: traces.base_l },
    { name: "rim", values: traces.rim_l },
    { name: "cheese", values: traces.cheese_l },
  ];
  const say = `Pull at ${bakeTime(handleS)}: base ${crustWord(reference.words, now(traces.base_l))}, rim ${crustWord(reference.words, now(traces.rim_l))}, crumb ${units.temp(now(traces.core_c))}`;
  return (
    <>
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
            <StripTicks data={data} scale={scale} bandsEnd={bandsEnd} />
            <WindowGround data={data} scale={scale} bandsEnd={bandsEnd} />
            <StripTemperatures data={data} scale={scale} handleS={handleS} />
            <HeatOn data={data} scale={scale} tagY={bandY(0) + 8} onPreheat={onPreheat} onDrag={onDrag} />
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
                lines={[x(handleS), ...layout.lines]}
                reference={reference}
              />
            ))}
            <rect
              x={launchX}
              y={PLOT.top}
              width={Math.max(0, right - launchX)}
              height={bandsEnd - PLOT.top}
              fill="transparent"
              className="cursor-crosshair"
              onClick={(e) => {
                const box = e.currentTarget.getBoundingClientRect();
                onScrub(scale.clamp(((e.clientX - box.left) / box.width) * end));
              }}
            />
            <Pull data={data} scale={scale} height={height} handleS={handleS} say={say} onScrub={onScrub} />
            {layout.flags.map((one) => (
              <FlagMark
                key={one.flag.key}
                {...one}
                y={layout.flagY(one.lane)}
                from={bandY(0)}
                invert={(px) => (px < launchX ? Math.min(0, pre.invert(px)) : x.invert(px))}
                onDrag={onDrag}
              />
            ))}
            <StripMarks marks={layout.marks} scale={scale} onScrub={onScrub} />
          </svg>
          <div
            className="absolute bottom-2 left-0 px-4 pb-1 text-[13px]"
            style={{ maxWidth: Math.max(200, launchX - 76) }}
          >
            {corner}
          </div>
        </div>
      </div>
      <MomentLine moments={data.moments} atS={handleS} left={launchX} />
    </>
  );
}
