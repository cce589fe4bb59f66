import { useState } from "react";
import { answer, client, Refusal } from "../../api/client";
import { Figure } from "../../ui/Figure";
import type { Told, Words } from "./types";

/** The yeast these hours want against the dough's, and how far the dough is now. */
export function DoseLine({
  told,
  words,
  wants,
  mixed,
  onWords,
  onDosed,
  onSeen,
}: {
  told: Told;
  words: Words;
  wants: boolean;
  mixed: boolean;
  onWords: (to: Partial<Words>) => void;
  onDosed: () => void;
  onSeen: () => void;
}) {
  const [problem, setProblem] = useState("");
  const [ratio, setRatio] = useState(1.5);
  const tell = async (call: () => Promise<unknown>, then: () => void) => {
    try {
      await call();
      setProblem("");
      then();
    } catch (error) {
      setProblem(error instanceof Refusal ? error.message : "It could not be kept.");
    }
  };
  const id = words.dough_id;
  const keeps = words.yeast === "keep";
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-x-3 gap-y-1 text-[14px] text-ash">
      {mixed && id != null ? (
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
          <button
            type="button"
            className="quiet"
            disabled={ratio < 1 || ratio > 5}
            onClick={() =>
              void tell(
                () =>
                  answer(
                    client.POST("/api/dough/{dough_id}/seen", {
                      params: { path: { dough_id: id } },
                      body: { ratio },
                    }),
                  ),
                onSeen,
              )
            }
          >
            now
          </button>
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
            {wants ? (
              <span> for these hours; the dough has {told.dough_yeast_pct?.toPrecision(2)} %.</span>
            ) : null}
          </span>
          {wants && id != null ? (
            <>
              <button
                type="button"
                className="text-air underline underline-offset-2"
                onClick={() =>
                  void tell(
                    () =>
                      answer(
                        client.POST("/api/dough/{dough_id}/dose", {
                          params: { path: { dough_id: id } },
                          body: { yeast_pct: told.result.yeast_pct },
                        }),
                      ),
                    onDosed,
                  )
                }
              >
                put it in the dough
              </button>
              <button
                type="button"
                className="text-air underline underline-offset-2"
                onClick={() => {
                  onWords({ yeast: "keep", yeast_pct: null });
                }}
              >
                keep the dough&rsquo;s, change the hours
              </button>
            </>
          ) : null}
          {keeps ? (
            <button
              type="button"
              className="text-air underline underline-offset-2"
              onClick={() => {
                onWords({ yeast: "solve" });
              }}
            >
              dose it for the programme&rsquo;s hours
            </button>
          ) : null}
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
