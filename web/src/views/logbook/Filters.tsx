import { useQuery } from "@tanstack/react-query";
import { server } from "../../api/queries";
import { useStyles } from "../../ui/styles";
import type { Fault } from "./book";

export interface Asked {
  style: string;
  fault: string;
  score: number;
  text: string;
  rig: string;
  /** Months back; 0: all of them. */
  months: number;
}

export const NOTHING_ASKED: Asked = {
  style: "",
  fault: "",
  score: 0,
  text: "",
  rig: "",
  months: 0,
};

const FIELD = "min-h-11 min-w-0 border border-line bg-panel px-2";

/** What of the book is looked for. */
export function Filters({
  asked,
  change,
  faults,
}: {
  asked: Asked;
  change: (asked: Asked) => void;
  faults: readonly Fault[];
}) {
  const styles = useStyles();
  const rigs = useQuery(server.rigs);
  return (
    <div className="mt-2 flex flex-wrap gap-2" role="search" aria-label="Search the book">
      <input
        aria-label="Words in names and notes"
        placeholder="words"
        className={`${FIELD} flex-1`}
        value={asked.text}
        maxLength={80}
        onChange={(e) => {
          change({ ...asked, text: e.target.value });
        }}
      />
      <details className="w-full">
        <summary className="min-h-11 cursor-pointer py-2.5 text-air underline underline-offset-2">
          narrow it
        </summary>
        <div className="grid grid-cols-2 gap-2">
          <select
            aria-label="Style"
            className={FIELD}
            value={asked.style}
            onChange={(e) => {
              change({ ...asked, style: e.target.value });
            }}
          >
            <option value="">every style</option>
            {(styles.data?.known ?? []).map((one) => (
              <option key={one.key} value={one.key}>
                {one.name}
              </option>
            ))}
          </select>
          <select
            aria-label="Fault"
            className={FIELD}
            value={asked.fault}
            onChange={(e) => {
              change({ ...asked, fault: e.target.value });
            }}
          >
            <option value="">with or without faults</option>
            {faults.map((one) => (
              <option key={one.key} value={one.key}>
                {one.name}
              </option>
            ))}
          </select>
          <select
            aria-label="Score"
            className={FIELD}
            value={asked.score}
            onChange={(e) => {
              change({ ...asked, score: Number(e.target.value) });
            }}
          >
            <option value={0}>any score</option>
            {[5, 7, 8, 9].map((one) => (
              <option key={one} value={one}>
                {one} and better
              </option>
            ))}
          </select>
          <select
            aria-label="Rig"
            className={FIELD}
            value={asked.rig}
            onChange={(e) => {
              change({ ...asked, rig: e.target.value });
            }}
          >
            <option value="">on anything</option>
            {(rigs.data?.rigs ?? []).map((one) => (
              <option key={one.key} value={one.key}>
                {one.support}, {one.hearth}
              </option>
            ))}
          </select>
          <select
            aria-label="Since"
            className={FIELD}
            value={asked.months}
            onChange={(e) => {
              change({ ...asked, months: Number(e.target.value) });
            }}
          >
            <option value={0}>of all years</option>
            {[1, 3, 12].map((one) => (
              <option key={one} value={one}>
                {one === 1 ? "of the last month" : `of the last ${String(one)} months`}
              </option>
            ))}
          </select>
        </div>
      </details>
    </div>
  );
}
