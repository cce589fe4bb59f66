import { useQuery } from "@tanstack/react-query";
import { server } from "../../api/queries";
import type { Reference } from "../../ui/crust";
import { Picker, type Choice } from "../../ui/Picker";
import { useUnits } from "../../ui/units";
import { Measure } from "./Measure";
import type { Preview, Sentence } from "./types";

/** The limit printed on baking paper, C: the least and the most there is. */
const PAPER_LIMIT_C = [150, 260] as const;
const USUAL_LIMIT_C = 215;
const PAPER = "paper";
type Release = NonNullable<Sentence["release"]>;

/** What lies under the base: flour, semolina, oil, paper. */
export function ReleaseWord({
  sentence,
  under,
  reference,
  onChange,
}: {
  sentence: Sentence;
  under: Preview["under"] | undefined;
  reference: Reference;
  onChange: (change: Partial<Sentence>, fresh: boolean) => void;
}) {
  const units = useUnits();
  const owned = useQuery(server.kitchen).data?.tools.find((tool) => tool.kind === "parchment");
  const limit = owned?.limit_c ?? sentence.parchment_limit_c ?? USUAL_LIMIT_C;
  const onPaper = sentence.parchment ?? false;
  const place = under?.on === "tray" || under?.on === "pan" || under?.on === "hot_pan" ? "tray" : "peel";
  const usual = sentence.release == null && !onPaper;
  const agents: Choice<string>[] = reference.release
    .filter((agent) => agent.on.includes(place) && !(agent.wheat && sentence.style === "gluten_free_round"))
    .map((agent) => ({
      value: agent.key,
      label: agent.name,
      note: usual && agent.key === under?.release ? `usual here: ${agent.note}` : agent.note,
    }));
  const paper: Choice<string> = {
    value: PAPER,
    label: "baking paper",
    note: owned ? `yours, up to ${units.temp(limit)}` : "up to the limit printed on it",
  };
  const agent = under?.release ?? sentence.release ?? "flour";
  const shown = onPaper ? paper.label : (agents.find((one) => one.value === agent)?.label ?? agent);
  return (
    <>
      <Picker
        label="under the base"
        shown={shown}
        value={onPaper ? PAPER : agent}
        choices={[...agents, paper]}
        onPick={(value) => {
          if (value === PAPER) onChange({ parchment: true, parchment_limit_c: limit }, false);
          else onChange({ parchment: false, release: value as Release }, false);
        }}
        more={
          onPaper ? (
            <div className="mt-2 border-t border-line px-3 pt-3 pb-1">
              <Measure
                label="limit printed on the paper"
                unit="C"
                value={sentence.parchment_limit_c ?? USUAL_LIMIT_C}
                bounds={PAPER_LIMIT_C}
                onChange={(parchment_limit_c) => {
                  onChange({ parchment_limit_c }, false);
                }}
              />
            </div>
          ) : null
        }
      />{" "}
      under it
    </>
  );
}
