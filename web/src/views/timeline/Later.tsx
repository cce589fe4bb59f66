import { clock, day } from "../../ui/time";
import { useUnits } from "../../ui/units";
import type { Result } from "./types";

/** What is done with pieces that left the rest when the dough was divided: each with its own days. */
export function Later({ later }: { later: Result["later"] }) {
  const units = useUnits();
  const names = [...new Set((later ?? []).map((one) => one.name))];
  return (
    <>
      {names.map((name) => (
        <section key={name} aria-label={units.say(name)} className="border-t border-line py-1">
          <h3 className="text-[15px] font-semibold print:text-[14pt]">{units.say(name)}</h3>
          <ul className="text-[14px] print:text-[13pt]">
            {(later ?? [])
              .filter((one) => one.name === name)
              .map((one) => (
                <li key={one.text} className="grid grid-cols-[6.4rem_1fr] gap-x-2 print:block">
                  <span className="font-semibold text-ash">
                    {one.at ? `${day(one.at)} ${clock(one.at)}` : "when wanted"}
                  </span>{" "}
                  <span>{units.say(one.text)}</span>
                </li>
              ))}
          </ul>
        </section>
      ))}
    </>
  );
}
