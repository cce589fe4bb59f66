import { Tabs } from "radix-ui";
import type { ReactNode } from "react";
import { useUnits } from "../../ui/units";
import { amount } from "./SupperSheet";
import type { Told } from "./types";

/** Conditions, toppings, handling, lists, the card. */
export function Side({
  conditions,
  toppings,
  lists,
  oven,
  byHand,
}: {
  conditions: ReactNode;
  byHand: ReactNode;
  toppings: ReactNode;
  lists: ReactNode;
  oven: ReactNode;
}) {
  const tab =
    "mr-3 whitespace-nowrap pb-1 font-display text-[15px] font-semibold text-ash data-[state=active]:border-b-[2.5px] data-[state=active]:border-soot data-[state=active]:text-soot";
  return (
    <Tabs.Root defaultValue="conditions" className="min-w-0 bg-panel p-4 pt-2">
      <Tabs.List
        aria-label="Who is there, toppings, by hand, to buy, at the oven"
        className="mb-2 flex flex-wrap"
      >
        <Tabs.Trigger value="conditions" className={tab}>
          Who is there
        </Tabs.Trigger>
        <Tabs.Trigger value="toppings" className={tab}>
          Toppings
        </Tabs.Trigger>
        <Tabs.Trigger value="by-hand" className={tab}>
          By hand
        </Tabs.Trigger>
        <Tabs.Trigger value="lists" className={tab}>
          To buy
        </Tabs.Trigger>
        <Tabs.Trigger value="oven" className={tab}>
          At the oven
        </Tabs.Trigger>
      </Tabs.List>
      <Tabs.Content value="conditions">{conditions}</Tabs.Content>
      <Tabs.Content value="toppings">{toppings}</Tabs.Content>
      <Tabs.Content value="by-hand">{byHand}</Tabs.Content>
      <Tabs.Content value="lists">{lists}</Tabs.Content>
      <Tabs.Content value="oven">{oven}</Tabs.Content>
    </Tabs.Root>
  );
}

/** What to buy and to have ready, for all pizzas. */
export function ListsPanel({ told }: { told: Told }) {
  const units = useUnits();
  return (
    <div className="grid content-start gap-3">
      <ul>
        {told.lists.shopping.map((item) => (
          <li key={item.name} className="flex items-baseline justify-between border-t border-line py-0.5">
            {item.name}
            <span className="font-semibold">
              {item.grams > 0 ? amount(item.grams, units.mass) : item.household}
            </span>
          </li>
        ))}
      </ul>
      {told.lists.prep.length ? (
        <>
          <h2 className="text-[16px] font-bold">To have ready</h2>
          <ul className="grid gap-1">
            {told.lists.prep.map((text) => (
              <li key={text}>{units.say(text)}</li>
            ))}
          </ul>
        </>
      ) : null}
    </div>
  );
}
