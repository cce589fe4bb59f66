import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import type { Style } from "./board";

/** The changes that would help most, for the style at hand or for all. */
export function HelpPanel({ style }: { style: Style }) {
  const [all, setAll] = useState(false);
  const asked = all ? [] : [style.key];
  const help = useQuery({
    queryKey: ["match", "help", asked],
    queryFn: ({ signal }) =>
      answer(client.GET("/api/match/help", { params: { query: { style: asked } }, signal })),
    staleTime: 60_000,
  });
  const most = Math.max(0.3, ...(help.data?.helps ?? []).map((h) => h.gain));
  return (
    <section aria-label="What would help most" className="grid gap-2 bg-panel p-4">
      <h2 className="text-[18px] font-bold">What would help most</h2>
      <label className="flex items-center gap-2 text-ash">
        <input
          type="checkbox"
          checked={all}
          onChange={(e) => {
            setAll(e.target.checked);
          }}
        />
        for all styles, not only {style.name}
      </label>
      {help.error ? (
        <p role="alert" className="text-brick">
          {help.error.message}
        </p>
      ) : !help.data ? (
        <div className="h-28 waiting" role="status" aria-busy="true" aria-label="Trying changes" />
      ) : help.data.helps.length === 0 ? (
        <p>Nothing you could add or change would make it clearly better.</p>
      ) : (
        <ul className="grid gap-2.5">
          {help.data.helps.map((h) => (
            <li key={h.what}>
              <span className="block font-semibold">{h.what}</span>
              <span className="block text-[13px] text-ash">
                {h.lifts.length > 0 ? h.lifts.slice(0, 3).join("; ") : "nearer the crust you want"}
              </span>
              <span
                aria-hidden
                className="mt-1 block h-1 bg-air"
                style={{ width: `${String(Math.max(4, (100 * h.gain) / most))}%` }}
              />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
