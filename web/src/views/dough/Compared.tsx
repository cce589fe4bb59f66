import { short, SHARES } from "./shares";
import type { Batch } from "./types";
import type { Told } from "./usePasted";

/** The pasted formula beside one's own. */
export function Compared({ shares, now }: { shares: NonNullable<Told["shares"]>; now: Batch }) {
  return (
    <table aria-label="Compared" className="w-full text-right [&_td]:pl-3 [&_th]:pl-3">
      <thead className="text-[13px] text-ash">
        <tr>
          <td />
          {SHARES.map((s) => (
            <th key={s.key} scope="col" className="font-normal">
              {s.name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        <tr>
          <th scope="row" className="text-left font-normal">
            this one
          </th>
          {SHARES.map((s) => (
            <td key={s.key} className="font-semibold">
              {short(shares[s.key])} %
            </td>
          ))}
        </tr>
        <tr className="text-ash">
          <th scope="row" className="text-left font-normal">
            yours
          </th>
          {SHARES.map((s) => (
            <td key={s.key}>{short(now.formula[s.key])} %</td>
          ))}
        </tr>
      </tbody>
    </table>
  );
}
