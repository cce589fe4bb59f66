import { Button } from "../../ui/Button";
import { Compared } from "./Compared";
import { useUnits } from "../../ui/units";
import { FillSelect } from "./FillSelect";
import { ReadingRow } from "./ReadingRow";
import { ofItsMass, withList } from "./fromList";
import { usePasted } from "./usePasted";
import type { Batch, DoughInput, DoughReference } from "./types";

/** Paste a list, see how each line was read, put it right, compare it with the dough, use it. */
export function PastePanel({
  owner,
  dough,
  now,
  things,
  onDough,
}: {
  owner: string;
  dough: DoughInput;
  now: Batch;
  things: DoughReference;
  onDough: (dough: DoughInput) => void;
}) {
  const { pasted, keep, problem, busy, read, change } = usePasted(owner);
  const told = pasted.told;
  const units = useUnits();
  return (
    <div className="grid min-h-0 content-start gap-3 overflow-y-auto pr-1 lg:grid-cols-[12rem_1fr]">
      <div className="grid content-start gap-2">
        <textarea
          aria-label="A list of ingredients"
          className="field h-52 resize-none text-[14px]"
          placeholder={"3 1/2 cups bread flour\n1 1/4 cups warm water\n2 tsp salt\n1 packet dry yeast"}
          value={pasted.text}
          onChange={(e) => {
            keep({ ...pasted, text: e.target.value });
          }}
        />
        <div className="flex flex-wrap items-center justify-between gap-2">
          <Button
            look="press"
            className="!py-1 whitespace-nowrap"
            disabled={busy}
            onClick={() => {
              void read(pasted);
            }}
          >
            Read it
          </Button>
          <label className="text-[13px] text-ash">
            cups{" "}
            <FillSelect
              label="How its cups are filled"
              value={pasted.fill}
              onFill={(fill) => {
                const as = { ...pasted, fill };
                keep(as);
                if (told) void read(as);
              }}
            />
          </label>
        </div>
        {problem ? (
          <p role="alert" className="text-brick">
            {problem}
          </p>
        ) : (
          <p className="text-[13px] leading-snug text-ash">
            Any list, one ingredient to a line; also a Recipe in JSON-LD or a CSV table of ingredient and
            grams.
          </p>
        )}
      </div>
      {told ? (
        <div className="grid min-w-0 content-start gap-2">
          <p className="font-semibold">{told.say}</p>
          <table className="w-full text-left">
            <thead className="text-[13px] text-ash">
              <tr>
                <th className="font-normal">read as</th>
                <th className="font-normal" colSpan={2}>
                  so much
                </th>
                <th className="text-right font-normal">g</th>
                <th className="text-right font-normal">%</th>
                <th className="text-right font-normal">yours</th>
              </tr>
            </thead>
            <tbody>
              {told.readings.map((r, i) => (
                // By what stands in the line: the fields of one list are never those of another.
                <ReadingRow
                  key={`${String(i)} ${r.text}`}
                  reading={r}
                  at={i}
                  told={told}
                  dough={dough}
                  things={things}
                  onChange={(to) => {
                    change(i, to);
                  }}
                />
              ))}
            </tbody>
          </table>
          {told.minds ? <p className="font-semibold text-brick">{told.minds}</p> : null}
          {told.shares ? <Compared shares={told.shares} now={now} /> : null}
          {told.lines.length ? (
            <div className="flex flex-wrap gap-2">
              <Button
                look="press"
                className="!py-1"
                onClick={() => {
                  onDough(ofItsMass(withList(dough, told), told.dough_g));
                }}
              >
                Use it as it is, {units.mass(told.dough_g)} in all
              </Button>
              <Button
                onClick={() => {
                  onDough(withList(dough, told));
                }}
              >
                Use it, for these pieces
              </Button>
              <Button
                onClick={() => {
                  keep(null);
                }}
              >
                Clear
              </Button>
            </div>
          ) : null}
        </div>
      ) : (
        <p className="text-ash">
          What is pasted is read line by line, and stands here beside your own dough.
        </p>
      )}
    </div>
  );
}
