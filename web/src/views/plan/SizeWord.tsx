import { FoldDown } from "../../ui/FoldDown";
import { useUnits } from "../../ui/units";
import type { StyleLine } from "../../ui/styles";
import { Measure } from "./Measure";
import type { Kitchen, Preview, Sentence } from "./types";

const ROUND = [12, 60] as const;
const PAN = [8, 80] as const;

/** How large one pizza is, and the dough that follows: a round's diameter, or the inside of a pan. */
export function SizeWord({
  sentence,
  style,
  kitchen,
  played,
  onChange,
}: {
  sentence: Sentence;
  style: StyleLine;
  kitchen: Kitchen;
  played: Preview | undefined;
  onChange: (change: Partial<Sentence>, fresh: boolean) => void;
}) {
  const units = useUnits();
  const pan = kitchen.pans.find((one) => one.id === sentence.pan_id);
  // A pan or tray is filled; a round of its own size lies on everything else.
  const inPan = style.shape === "pan" || (style.family === "tray" && pan !== undefined);
  if (style.shape === "pan" && !pan) return null;
  const across = sentence.diameter_cm ?? style.diameter_cm;
  const width = sentence.pan_width_cm ?? pan?.width_cm ?? 0;
  const depth = sentence.pan_depth_cm ?? pan?.depth_cm ?? 0;
  const said = !inPan
    ? units.size(across)
    : width === depth
      ? units.size(width)
      : `${units.size(depth).replace(/ .*/, "")} × ${units.size(width)}`;
  const own = sentence.diameter_cm != null || sentence.pan_width_cm != null;
  const fields: readonly { label: string; value: number; change: (cm: number) => Partial<Sentence> }[] = inPan
    ? [
        { label: "inside", value: width, change: (cm) => ({ pan_width_cm: cm, pan_depth_cm: depth }) },
        { label: "by", value: depth, change: (cm) => ({ pan_width_cm: width, pan_depth_cm: cm }) },
      ]
    : [{ label: "across", value: across, change: (cm) => ({ diameter_cm: cm }) }];
  const mass = played?.result.dough.mass_g;
  return (
    <>
      {" of "}
      <FoldDown
        part="size"
        label="How large one is"
        shown={said}
        said={`size: ${said}`}
        className="grid w-72 gap-2 p-4 text-[15px]"
      >
        <p className="flex flex-wrap gap-x-4 gap-y-2">
          {fields.map((field) => (
            <Measure
              key={field.label}
              label={field.label}
              unit="cm"
              value={field.value}
              bounds={inPan ? PAN : ROUND}
              onChange={(value) => {
                onChange(field.change(value), true);
              }}
            />
          ))}
        </p>
        {mass !== undefined ? <p className="text-ash">{units.mass(mass)} of dough each</p> : null}
        {own ? (
          <button
            type="button"
            className="quiet justify-self-start"
            onClick={() => {
              onChange({ diameter_cm: null, pan_width_cm: null, pan_depth_cm: null }, true);
            }}
          >
            As {inPan ? "the pan is" : "the style has it"}
          </button>
        ) : null}
      </FoldDown>
    </>
  );
}
