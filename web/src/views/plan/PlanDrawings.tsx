import type { Reference } from "../../ui/crust";
import { valueAt } from "../../ui/interpolate";
import { CrustWords, SliceSection, Underside, type CrustNow } from "../../ui/Slice";
import { crustForm } from "../../ui/sliceShape";
import { bakeTime } from "../../ui/time";
import { wordAt } from "../../ui/wordAt";
import { CardPanel } from "./CardPanel";
import { PlanSection } from "./PlanSection";
import { RowTab } from "./RowTab";
import type { Kitchen } from "./types";
import type { Laid } from "./usePlanDesk";

/** The crust at the moment shown. */
function crustNow({ traces, played, moment, style, draft }: Laid, kitchen: Kitchen): CrustNow {
  const pick = (values: readonly number[]) => valueAt(traces.t_s, values, moment.at);
  const { dough, result: told } = played.result;
  const pan = kitchen.pans.find((p) => p.id === draft.sentence.pan_id);
  const form = crustForm(style ?? { family: "round", shape: "hand" });
  return {
    baseL: pick(traces.base_l),
    rimL: pick(traces.rim_l),
    cheeseL: pick(traces.cheese_l),
    coreC: pick(traces.core_c),
    lossPct: pick(traces.loss_pct),
    dryMm: pick(traces.base_dry_mm),
    spotPct: pick(traces.dark_spot_pct),
    bite: wordAt(told.bite, moment.at) ?? told.at_done.crisp_word,
    edgeL: traces.edge_l.length > 0 ? pick(traces.edge_l) : null,
    crumb: wordAt(told.crumb, moment.at) ?? told.at_done.crumb_word,
    rise: Math.max(0, Math.min(1, (pick(traces.core_c) - 35) / 50)),
    form: form === "tray" && !pan ? "round" : form,
    square: pan !== undefined && form !== "round" && form !== "thin" && !pan.kind.includes("iron"),
    wallMm: pan ? pan.wall_cm * 10 : 0,
    loadingGcm2: (dough.mass_g ?? 250) / (dough.area_cm2 ?? 707),
  };
}

/** The hearth cut open, the slice, and the card: all at the moment shown. */
export function PlanDrawings({
  desk,
  kitchen,
  reference,
  launch,
}: {
  desk: Laid;
  kitchen: Kitchen;
  reference: Reference;
  launch: string;
}) {
  const { draft, played, controls, traces, moment } = desk;
  const crust = crustNow(desk, kitchen);
  return (
    <div className="grid min-h-0 gap-3 md:min-h-[314px] md:flex-1 md:grid-cols-[480fr_334fr_330fr]">
      <section aria-label="The section" className="min-h-0 bg-well p-1.5">
        <PlanSection
          played={played}
          controls={controls}
          sentence={draft.sentence}
          kitchen={kitchen}
          reference={reference}
          crust={crust}
          at={moment.at}
          deckC={valueAt(traces.t_s, traces.deck_c, moment.at)}
          airC={valueAt(traces.t_s, traces.air_c, moment.at)}
          pizzaCm={desk.style?.diameter_cm ?? 30}
          onControl={desk.control}
          onLevel={desk.toLevel}
          onTop={desk.toggleTop}
          onFan={desk.toggleFan}
          onDrag={desk.setDragging}
        />
      </section>
      <section aria-label="The slice" className="min-h-0 bg-panel p-4 pb-2">
        <h2 className="text-[17px] font-bold">
          At {bakeTime(moment.at)}{" "}
          <span className="font-sans text-[13px] font-normal text-ash">the slice, and its underside</span>
        </h2>
        <SliceSection crust={crust} reference={reference} />
        <div className="grid grid-cols-[112px_1fr] items-center gap-3">
          <Underside crust={crust} reference={reference} />
          <CrustWords crust={crust} reference={reference} coreWanted={played.result.wanted.core_c} />
        </div>
      </section>
      <CardPanel
        result={{ ...played.result, reasons: desk.reasons }}
        launch={launch}
        title={desk.title}
        stale={desk.stale}
        row={
          <RowTab
            sentence={draft.sentence}
            controls={controls}
            planId={desk.saved?.id ?? null}
            firstLaunch={launch}
            supper={desk.supper}
          />
        }
      />
    </div>
  );
}
