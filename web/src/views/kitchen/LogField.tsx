import { useState } from "react";
import type { Instrument } from "./things";

const LARGEST = 200_000;
const NO_LOG =
  "This file is no log of a preheat: give a table as text, at most 200 kB. One reading in ten seconds is plenty.";

/** The log of a preheat: pasted, from a file, or the newest run of a wireless thermometer. */
export function LogField({
  csv,
  live,
  senders,
  onCsv,
  onLive,
}: {
  csv: string;
  /** The instrument whose run it is; null: the text. */
  live: number | null;
  senders: readonly Instrument[];
  onCsv: (csv: string) => void;
  onLive: (instrument: number | null) => void;
}) {
  const [wrongFile, setWrongFile] = useState("");
  const chosen = (file: File | undefined) => {
    onLive(null);
    if (!file) return;
    if (file.size > LARGEST || /^(image|video|audio)\//.test(file.type)) {
      setWrongFile(NO_LOG);
      return;
    }
    setWrongFile("");
    void file.text().then((text) => {
      if (text.includes("\u0000")) setWrongFile("This file is not text; give the log as a table (CSV).");
      else onCsv(text);
    });
  };
  return (
    <>
      <textarea
        aria-label="the log"
        rows={4}
        className="field px-2 py-1 text-[12.5px]"
        placeholder={"minutes,deck C,oven C\n0,22,22\n1,25,48"}
        disabled={live !== null}
        value={live === null ? csv : ""}
        onChange={(e) => {
          onCsv(e.target.value);
        }}
      />
      <label className="text-[13px] text-air underline underline-offset-2">
        or choose a file
        <input
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          className="sr-only"
          onChange={(e) => {
            chosen(e.target.files?.[0]);
            e.target.value = "";
          }}
        />
      </label>
      {senders.map((sender) => (
        <label key={sender.id} className="flex items-center gap-2 text-[13px]">
          <input
            type="checkbox"
            checked={live === sender.id}
            onChange={(e) => {
              setWrongFile("");
              onLive(e.target.checked ? sender.id : null);
            }}
          />
          or take the newest run of the {sender.name}
        </label>
      ))}
      {wrongFile ? (
        <p role="alert" className="text-brick">
          {wrongFile}
        </p>
      ) : null}
    </>
  );
}
