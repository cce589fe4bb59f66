import { CardLines } from "../../ui/CardLines";
import { bakeTime, clock } from "../../ui/time";
import { useUnits } from "../../ui/units";
import type { Told } from "./types";

/** The plan's card by the clock, then every pizza with its own minutes: what hangs beside the oven. */
export function OvenSheet({ told }: { told: Told }) {
  const units = useUnits();
  const oven = told.result.oven;
  if (!oven) return null;
  const rows = oven.pizzas.length > 1 ? oven.pizzas : [];
  const onDeck = rows.some((one) => one.deck_c != null);
  return (
    <div className="grid gap-3 print:gap-[1.5mm]">
      <CardLines
        lines={oven.lines.map((line) => ({
          when: line.at ? clock(line.at) : bakeTime(line.at_s),
          baking: line.at_s > 0,
          kind: line.kind,
          text: line.text,
          hint: line.hint,
          cautions: line.cautions,
        }))}
      />
      {rows.length ? (
        <table className="w-full text-left print:break-inside-avoid print:text-[15pt]" data-testid="row">
          <caption className="sr-only">Every pizza: when it goes in, and its minutes in the oven</caption>
          <thead>
            <tr className="border-b border-line text-[13px] text-ash print:text-[13pt]">
              <th scope="col">
                <span className="sr-only">Pizza</span>
              </th>
              <th scope="col">in at</th>
              <th scope="col">look from</th>
              <th scope="col">pull</th>
              <th scope="col">not after</th>
              {onDeck ? <th scope="col">deck</th> : null}
            </tr>
          </thead>
          <tbody>
            {rows.map((one) => (
              <tr key={one.pizza} data-pizza={one.pizza} className="border-b border-line">
                <td className="text-ash">
                  <span aria-hidden className="hidden print:inline">
                    □{" "}
                  </span>
                  {one.pizza}
                </td>
                <td className="font-bold">{clock(one.launch)}</td>
                <td>{bakeTime(one.look_from_s)}</td>
                <td className="font-bold">{bakeTime(one.done_s)}</td>
                <td>{bakeTime(one.not_later_s)}</td>
                {onDeck ? <td>{one.deck_c != null ? units.temp(one.deck_c) : ""}</td> : null}
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
    </div>
  );
}
