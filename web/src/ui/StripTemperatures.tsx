import { valueAt } from "./interpolate";
import { LEFT, type StripScale } from "./stripScale";
import type { StripData } from "./stripTypes";
import { useUnits } from "./units";

/** Temperatures over time, and what they are at the moment shown. */
export function StripTemperatures({
  data,
  scale,
  handleS,
}: {
  data: StripData;
  scale: StripScale;
  handleS: number;
}) {
  const units = useUnits();
  const { traces } = data;
  const { path, pre, x, end } = scale;
  const now = (values: readonly number[]) => valueAt(traces.t_s, values, handleS);
  const tracks: readonly {
    key: "deck_c" | "air_c" | "base_c" | "core_c";
    name: string;
    ink: string;
    wide: number;
    dash?: string;
  }[] = [
    { key: "deck_c", name: data.hasDeck ? "deck" : "tray", ink: "var(--soot)", wide: 2.4 },
    { key: "air_c", name: "air", ink: "var(--air)", wide: 1.6 },
    { key: "base_c", name: "base face", ink: "var(--brick)", wide: 1.8 },
    { key: "core_c", name: "crumb", ink: "var(--ash)", wide: 1.6, dash: "5 3" },
  ];
  return (
    <>
      {tracks.map((track, i) => (
        <g key={track.key}>
          <path
            d={path(traces.t_s, traces[track.key], x, end)}
            fill="none"
            stroke={track.ink}
            strokeWidth={track.wide}
            strokeDasharray={track.dash}
          />
          <text x="16" y={38 + i * 22} fontSize="13.5" fontWeight="700" fill={track.ink}>
            {track.name}
          </text>
          <text
            x={LEFT - 12}
            y={38 + i * 22}
            fontSize="13.5"
            fontWeight="650"
            textAnchor="end"
            fill={track.ink}
          >
            {units.temp(now(traces[track.key]))}
          </text>
        </g>
      ))}
      {data.preheat.t_s.length > 1 ? (
        <g>
          <path
            d={path(data.preheat.t_s, data.preheat.air_c, (t) => pre(t - data.preheatMin * 60), 1e9)}
            fill="none"
            stroke="var(--air)"
            strokeWidth="1.6"
          />
          {data.hasDeck ? (
            <path
              d={path(data.preheat.t_s, data.preheat.deck_c, (t) => pre(t - data.preheatMin * 60), 1e9)}
              fill="none"
              stroke="var(--soot)"
              strokeWidth="2.4"
            />
          ) : null}
        </g>
      ) : null}
    </>
  );
}
