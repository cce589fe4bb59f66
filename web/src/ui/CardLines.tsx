import { useUnits } from "./units";

export interface CardLine {
  when: string;
  /** After the launch: it is of the pizza in the oven. */
  baking: boolean;
  kind: string;
  text: string;
  hint?: string | undefined;
  cautions?: readonly string[] | undefined;
}

/** The lines of a card: when, what, how to know, what to mind; on paper to be read from a metre, each with a box to tick. */
export function CardLines({ lines }: { lines: readonly CardLine[] }) {
  const units = useUnits();
  return (
    <ol className="grid gap-y-[5px] print:gap-y-[1.2mm]">
      {lines.map((line, i) => (
        <li
          key={i}
          className="grid grid-cols-[3.1rem_1fr] gap-x-1 print:break-inside-avoid print:grid-cols-[6mm_21mm_1fr] print:gap-x-[2mm]"
        >
          <span aria-hidden className="hidden print:block print:text-[16pt]">
            □
          </span>
          <span
            className={`font-bold whitespace-nowrap print:text-[16pt] ${line.baking ? "text-brick" : ""}`}
          >
            {line.when}
          </span>
          <span className="print:text-[15pt] print:leading-snug">
            <span className={line.kind === "launch" || line.kind === "pull" ? "font-bold" : ""}>
              {units.say(line.text)}
            </span>
            {line.hint ? (
              <span className="block text-[12.5px] leading-snug text-ash print:text-[13pt]">
                {units.say(line.hint)}
              </span>
            ) : null}
            {(line.cautions ?? []).map((c) => (
              <span
                key={c}
                className="block border-l-2 border-brick pl-1.5 text-[12.5px] leading-snug font-semibold text-brick print:text-[13pt]"
              >
                {units.say(c)}
              </span>
            ))}
          </span>
        </li>
      ))}
    </ol>
  );
}
