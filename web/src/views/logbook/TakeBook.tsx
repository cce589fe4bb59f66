import { Button } from "../../ui/Button";
import { FilePick } from "../../ui/FilePick";
import { useBringIn, type BroughtIn } from "./useBringIn";

const FORMS = [
  ["csv", "as a table"],
  ["json", "whole, without photos"],
  ["zip", "whole, with photos"],
] as const;

/** The book as a file, out and in: what a file holds is shown before anything is kept. */
export function TakeBook({ weigh }: { weigh: () => void }) {
  const desk = useBringIn(weigh);
  const link = "text-air underline underline-offset-2 py-2";
  return (
    <div className="mt-4 border-t border-line pt-2">
      <p className="flex flex-wrap gap-x-5">
        <span className="py-2">Take the book along</span>
        {FORMS.map(([form, words]) => (
          <a
            key={form}
            className={link}
            href={`/api/logbook/export?form=${form}`}
            download={`logbook.${form}`}
          >
            {words}
          </a>
        ))}
        <FilePick
          label="Bring one in"
          accept=".json,.csv,.zip,application/json,text/csv,application/zip"
          className={link}
          pick={desk.read}
        />
      </p>
      {desk.problem ? (
        <p role="alert" className="text-brick">
          {desk.problem}
        </p>
      ) : null}
      {desk.told ? <Told told={desk.told} busy={desk.busy} keep={desk.keep} /> : null}
    </div>
  );
}

function Told({ told, busy, keep }: { told: BroughtIn; busy: boolean; keep: () => void }) {
  const photos =
    told.photos > 0 ? `, with ${String(told.photos)} ${told.photos === 1 ? "photo" : "photos"}` : "";
  return (
    <div role="status" className="leaf mt-1 p-3">
      <p>
        {told.kept
          ? `${String(told.new)} came in${photos}.`
          : `${String(told.new)} ${told.new === 1 ? "is" : "are"} new${photos}.`}{" "}
        {told.known > 0 ? `${String(told.known)} are in the book already.` : ""}{" "}
        {told.refused > 0 ? `${String(told.refused)} cannot be taken:` : ""}
      </p>
      <ul className="text-[13.5px]">
        {told.why.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      {!told.kept && told.new > 0 ? (
        <Button look="press" className="mt-2 min-h-11 px-3" disabled={busy} onClick={keep}>
          {busy ? "Being put in" : "Put them into the book"}
        </Button>
      ) : null}
    </div>
  );
}
