import { Button } from "../../ui/Button";
import { useState } from "react";
import { useOutbox } from "../../app/useOutbox";
import { Figure } from "../../ui/Figure";
import { answer, client, Refusal } from "../../api/client";
import { doughAsked } from "../../supper/draft";
import { useTaken } from "../../supper/Library";
import type { DoughInput } from "../../supper/types";
import type { Told, Words } from "./types";
import type { Desk } from "./useSupperDesk";

/** The yeast these hours want against the dough's, and how far the dough is now. */
export function DoseLine({
  desk,
  told,
  wants,
  mixed,
}: {
  desk: Desk;
  told: Told;
  wants: boolean;
  mixed: boolean;
}) {
  const [problem, setProblem] = useState("");
  const [ratio, setRatio] = useState(1.5);
  const outbox = useOutbox();
  const { words, supper } = desk;
  const { dough } = supper.draft;
  const onWords = desk.say;
  const take = useTaken(supper);
  const hasDough = dough !== null;
  const look = async () => {
    const row = supper.saved?.dough;
    if (!row || supper.touched) {
      setProblem("Save the supper first; then say what the dough stands at.");
      return;
    }
    const outcome = await outbox.happened("dough.seen", row.id, { ratio }).catch(() => undefined);
    setProblem(
      outcome === undefined
        ? "It could not be kept; try again."
        : outcome?.state === "refused"
          ? (outcome.message ?? "")
          : "",
    );
    desk.afterDough();
  };
  const dose = async () => {
    if (!dough) return;
    try {
      const body = { dough: doughAsked(dough.dough), change: null, solve: "nothing" as const };
      const answered = await answer(
        client.POST("/api/dough/batch", { body: { ...body, yeast_pct: told.result.yeast_pct } }),
      );
      setProblem("");
      const next = { ...dough, dough: answered.dough as DoughInput };
      take(`The dough has ${told.result.yeast_pct.toPrecision(2)} % of yeast now.`, (was) => ({
        ...was,
        dough: next,
      }));
    } catch (error) {
      setProblem(error instanceof Refusal ? error.message : "It could not be changed; try again.");
    }
  };
  const keeps = words.yeast === "keep";
  const asIs = words.yeast === "as_is" && hasDough;
  const way = (yeast: Words["yeast"], text: string) => (
    <Button
      look="link"
      className="text-air"
      onClick={() => {
        onWords({ yeast, yeast_pct: null });
      }}
    >
      {text}
    </Button>
  );
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-x-3 gap-y-1 text-[14px] text-ash">
      {mixed && hasDough ? (
        <span className="flex items-baseline gap-1.5">
          The dough stands at ×
          <Figure
            label="What the dough stands at now"
            value={ratio}
            digits={2}
            step={0.1}
            wide="w-10 text-soot"
            problem={ratio < 1 || ratio > 5 ? "from 1 to 5 times its start" : undefined}
            onChange={setRatio}
          />
          <Button disabled={ratio < 1 || ratio > 5} onClick={() => void look()}>
            now
          </Button>
          {Math.abs(told.result.rise.speed - 1) > 0.005 ? (
            <span data-testid="pace">
              {Math.round(Math.abs(told.result.rise.speed - 1) * 100)} %{" "}
              {told.result.rise.speed < 1 ? "slower" : "faster"} than reckoned
            </span>
          ) : null}
        </span>
      ) : (
        <>
          <span>
            Yeast, as instant,{" "}
            <span className="font-semibold text-soot">{told.result.yeast_pct.toPrecision(2)} %</span>
            {asIs ? (
              <span>
                {words.programme === "own" ? ", and its hours, as in the dough." : ", as in the dough."}
              </span>
            ) : null}
            {wants ? (
              <span> for these hours; the dough has {told.dough_yeast_pct?.toPrecision(2)} %.</span>
            ) : null}
          </span>
          {wants && hasDough ? (
            <>
              <Button look="link" className="text-air" onClick={() => void dose()}>
                Change the dough to {told.result.yeast_pct.toPrecision(2)} %
              </Button>
              {way("keep", "Keep the dough’s yeast, adjust the hours")}
            </>
          ) : null}
          {asIs && !told.result.rise.good ? (
            <span role="status" className="font-semibold text-brick" data-testid="dose-does-not-fit">
              {told.result.rise.say}
            </span>
          ) : null}
          {keeps || asIs ? way("solve", "Calculate the yeast for these hours") : null}
          {asIs ? way("keep", "Adjust the hours to this yeast") : null}
          {hasDough && (keeps || wants) ? way("as_is", "Use the dough’s yeast and these hours") : null}
        </>
      )}
      {problem ? (
        <span role="alert" className="text-brick">
          {problem}
        </span>
      ) : null}
    </div>
  );
}
