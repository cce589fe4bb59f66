import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import { server } from "../../api/queries";
import { crustColour, type Reference } from "../../ui/crust";
import { bakeTime, dateOf } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { lightness, type Entry, type Line } from "./book";

/** This bake beside another: both on one time axis, what differed in and out, and what that allows to conclude. */
export function SideBySide({ entry, reference }: { entry: Entry; reference: Reference }) {
  const [other, setOther] = useState(0);
  const lines = useQuery(server.lastBakes);
  const against = useQuery({
    queryKey: ["logbook", "against", entry.id, entry.version, other],
    queryFn: () =>
      answer(
        client.GET("/api/logbook/{entry_id}/against", {
          params: { path: { entry_id: entry.id }, query: { other } },
        }),
      ),
    enabled: other > 0,
  });
  const others = (lines.data ?? []).filter((one) => one.id !== entry.id && !one.problem);
  const chosen = others.find((one) => one.id === other);
  if (others.length === 0) return null;
  return (
    <section className="mt-5" aria-label="Beside another bake">
      <label className="flex flex-wrap items-center gap-3">
        <span className="text-[20px] font-bold">Beside</span>
        <select
          className="min-h-11 min-w-0 flex-1 border border-line bg-panel px-2"
          value={other}
          onChange={(e) => {
            setOther(Number(e.target.value));
          }}
        >
          <option value={0}>choose another bake</option>
          {others.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}, {dateOf(one.baked_at)}
            </option>
          ))}
        </select>
      </label>
      {chosen ? <Axis one={chosen} entry={entry} reference={reference} /> : null}
      {against.data && chosen ? <Differences told={against.data} from={chosen.name} to={entry.name} /> : null}
    </section>
  );
}

/** Both bakes as long as they were in, base above rim, in the colour that came out. */
function Axis({ one, entry, reference }: { one: Line; entry: Line; reference: Reference }) {
  const longest = 1.05 * Math.max(one.pulled_s, entry.pulled_s);
  const share = (s: number) => `${String((100 * s) / longest)}%`;
  return (
    <div className="mt-2 grid gap-1">
      {[one, entry].map((line) => (
        <div key={line.id}>
          <p className="text-[13.5px] text-ash">{line.name}</p>
          <div className="flex items-center gap-2">
            <div className="h-8 min-w-0" style={{ width: share(line.pulled_s) }}>
              {(["base", "rim"] as const).map((part) => {
                const l = lightness(line.came[part], reference.words);
                return (
                  <div
                    key={part}
                    className="h-4"
                    style={
                      l === null
                        ? { border: "1px dashed var(--line)" }
                        : {
                            background: `linear-gradient(to right, ${crustColour(reference.ramp, 84)}, ${crustColour(reference.ramp, l)})`,
                          }
                    }
                  />
                );
              })}
            </div>
            <span className="tabular-nums">{bakeTime(line.pulled_s)}</span>
          </div>
        </div>
      ))}
    </div>
  );
}

function Differences({ told, from, to }: { told: Schemas["Compared"]; from: string; to: string }) {
  const units = useUnits();
  return (
    <>
      <p className="mt-2 text-[17px] font-semibold">{units.say(told.say)}</p>
      {told.changed.length + told.came.length > 0 ? (
        <table className="mt-2 w-full text-left">
          <thead>
            <tr className="text-ash">
              <th scope="col" className="pr-2 font-normal">
                what
              </th>
              <th scope="col" className="pr-2 font-normal">
                {from}
              </th>
              <th scope="col" className="pr-2 font-normal">
                {to}
              </th>
            </tr>
          </thead>
          <tbody>
            {[
              ...told.changed.map((one) => ({ ...one, out: false })),
              ...told.came.map((one) => ({ ...one, out: true })),
            ].map((one) => (
              <tr key={one.name} className="border-t border-line align-top">
                <th scope="row" className="py-1 pr-2 font-normal">
                  {one.name}
                  {one.out ? <span className="text-ash"> (came out)</span> : null}
                </th>
                <td className="py-1 pr-2 tabular-nums">{units.say(one.one)}</td>
                <td className="py-1 font-semibold tabular-nums">{units.say(one.other)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
    </>
  );
}
