import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { server } from "../api/queries";
import { newDraft, type Sentence } from "../ui/planDraft";

const THICKNESS = ["thin", "usual", "thick"] as const;
export type Thickness = (typeof THICKNESS)[number];

/** What a cook bakes with nothing planned: on what, which style, how thick. null: nothing of the kitchen bakes. */
export function usePickedBake() {
  const rigs = useQuery(server.rigs);
  const styles = useQuery(server.styles);
  const [at, setAt] = useState("");
  const [style, setStyle] = useState("");
  const [thickness, setThickness] = useState<Thickness>("usual");
  const rig = rigs.data?.rigs.find((one) => one.key === at) ?? rigs.data?.rigs[0];
  if (!rig || !styles.data) return null;
  const able = styles.data.known.filter((one) => rig.styles.includes(one.key));
  const chosen = able.find((one) => one.key === style) ?? able[0];
  const sentence = (): Sentence => {
    const { hearth_id, surface_id, pan_id } = rig;
    return newDraft(chosen?.key as NonNullable<Sentence["style"]>, { hearth_id, surface_id, pan_id })
      .sentence;
  };
  return {
    rigs: rigs.data?.rigs ?? [],
    rig,
    able,
    chosen,
    thickness,
    setAt,
    setStyle,
    setThickness,
    sentence,
  };
}

/** The three fields of it. */
export function PickBake({ picked }: { picked: NonNullable<ReturnType<typeof usePickedBake>> }) {
  const { rigs, rig, able, chosen, thickness, setAt, setStyle, setThickness } = picked;
  const row = "min-h-12 w-full border border-line bg-panel px-2 text-[17px]";
  return (
    <div className="mt-2 grid gap-2 md:grid-cols-3">
      <label>
        On
        <select
          className={row}
          value={rig.key}
          onChange={(e) => {
            setAt(e.target.value);
          }}
        >
          {rigs.map((one) => (
            <option key={one.key} value={one.key}>
              {one.support}, {one.hearth}
            </option>
          ))}
        </select>
      </label>
      <label>
        Style
        <select
          className={row}
          value={chosen?.key ?? ""}
          onChange={(e) => {
            setStyle(e.target.value);
          }}
        >
          {able.map((one) => (
            <option key={one.key} value={one.key}>
              {one.name}
            </option>
          ))}
        </select>
      </label>
      <fieldset>
        <legend>Dough</legend>
        <div className="flex">
          {THICKNESS.map((one) => (
            <label
              key={one}
              className={`flex min-h-12 flex-1 cursor-pointer items-center justify-center border border-line text-[17px] has-focus-visible:outline-2 ${thickness === one ? "bg-soot font-bold text-ground" : "bg-panel"}`}
            >
              <input
                type="radio"
                name="thickness"
                className="sr-only"
                checked={thickness === one}
                onChange={() => {
                  setThickness(one);
                }}
              />
              {one}
            </label>
          ))}
        </div>
      </fieldset>
    </div>
  );
}
