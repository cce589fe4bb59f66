import { Button } from "../../ui/Button";
import { CardLines } from "../../ui/CardLines";
import { Tabs } from "radix-ui";
import { useState, type ReactNode } from "react";
import { bakeTime, clockAfter } from "../../ui/time";
import { useUnits } from "../../ui/units";
import type { PlanResult } from "./types";

/** When a step happens: a clock time before launch, minutes after it. */
function when(atS: number, launch: string): string {
  return atS <= 0 ? clockAfter(launch, atS) : bakeTime(atS);
}

/** The plan as text, for copying. */
export function cardText(
  title: string,
  result: PlanResult,
  launch: string,
  say: (t: string) => string,
): string {
  const lines = result.card.flatMap((s) => [
    `${when(s.at_s, launch).padEnd(7)} ${say(s.text)}${s.hint ? ` (${say(s.hint)})` : ""}`,
    ...(s.cautions ?? []).map((c) => `        ! ${say(c)}`),
  ]);
  return [title, ...lines].join("\n");
}

/** The card and the reasons, in one place. */
export function CardPanel({
  result,
  launch,
  title,
  stale,
  row,
}: {
  result: PlanResult;
  launch: string;
  title: string;
  stale: boolean;
  /** Several in a row. */
  row: ReactNode;
}) {
  const units = useUnits();
  const [copied, setCopied] = useState(false);
  const tab =
    "px-0 pb-1 mr-4 font-display text-[17px] font-semibold text-ash data-[state=active]:text-soot data-[state=active]:border-b-[2.5px] border-soot";
  return (
    <Tabs.Root defaultValue="card" className="on-paper flex h-full min-h-0 flex-col bg-panel p-4 pb-2">
      <div className="flex items-baseline print:hidden">
        <Tabs.List aria-label="Card, reasons, several in a row">
          <Tabs.Trigger value="card" className={tab}>
            The card
          </Tabs.Trigger>
          <Tabs.Trigger value="why" className={tab}>
            Why
          </Tabs.Trigger>
          <Tabs.Trigger value="row" className={tab}>
            In a row
          </Tabs.Trigger>
        </Tabs.List>
        <span className="ml-auto flex gap-3 text-[13px] text-air">
          <Button
            look="link"
            onClick={() => {
              void navigator.clipboard.writeText(cardText(title, result, launch, units.say)).then(() => {
                setCopied(true);
                setTimeout(() => {
                  setCopied(false);
                }, 1500);
              });
            }}
          >
            {copied ? "copied" : "copy"}
          </Button>
          <Button
            look="link"
            onClick={() => {
              window.print();
            }}
          >
            print
          </Button>
        </span>
      </div>
      <p className="hidden font-display font-bold print:block print:text-[26pt]">{title}</p>
      <Tabs.Content
        value="card"
        className="min-h-0 flex-1 overflow-y-auto pt-2"
        tabIndex={0}
        aria-label="The card"
      >
        <CardLines
          lines={result.card.map((step) => ({
            ...step,
            when: when(step.at_s, launch),
            baking: step.at_s > 0,
          }))}
        />
        <p className="mt-2 text-[12px] leading-snug text-ash print:text-[13pt]">
          Follow the appliance&rsquo;s manual and local codes; gas and wiring are for a licensed technician.
          Mattone advises on cooking, not on safety systems.
        </p>
      </Tabs.Content>
      <Tabs.Content
        value="why"
        className={`min-h-0 flex-1 overflow-y-auto pt-2 ${stale ? "opacity-60" : ""}`}
        tabIndex={0}
        aria-label="Why"
      >
        <dl className="grid gap-y-2.5">
          {result.reasons.map((r) => (
            <div key={r.decision}>
              <dt className="font-bold">{units.say(r.chosen)}</dt>
              <dd className="leading-snug">
                {units.say(r.because)} <span className="text-ash">{units.say(r.otherwise)}</span>
              </dd>
            </div>
          ))}
        </dl>
      </Tabs.Content>
      <Tabs.Content
        value="row"
        className="min-h-0 flex-1 overflow-y-auto pt-2"
        tabIndex={0}
        aria-label="In a row"
      >
        {row}
      </Tabs.Content>
    </Tabs.Root>
  );
}
