import { Trouble } from "../../app/Trouble";
import { server } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { OrdinaryKitchen } from "../../app/OrdinaryKitchen";
import { useReference } from "../../ui/styles";
import { Altitude } from "./Altitude";
import { Chosen } from "./Chosen";
import { Shelf } from "./Shelf";
import { TakeAlong } from "./TakeAlong";
import { NOUNS, type Thing } from "./things";
import { useShelves } from "./useShelves";

/** Everything the cook owns, drawn to one scale; add, change, duplicate, retire. */
export function KitchenView() {
  const kitchen = useQuery(server.kitchen);
  const catalogue = useQuery(server.catalogue);
  const reference = useReference();
  const shelves = useShelves();
  const trouble = kitchen.error ?? reference.error;
  if (trouble)
    return (
      <Trouble
        message={trouble.message}
        again={() => {
          void kitchen.refetch();
          reference.refetch();
        }}
      />
    );
  if (!kitchen.data || !reference.data)
    return (
      <main aria-busy="true" aria-label="Loading the kitchen" className="grid gap-3 p-6 waiting">
        <div className="h-40 bg-panel" />
        <div className="h-40 bg-panel" />
      </main>
    );
  const data = kitchen.data;
  const { kinds } = reference.data.reference;
  const { chosen, adding, retiring } = shelves;
  const empty = data.hearths.length + data.surfaces.length + data.pans.length === 0;
  const all: readonly Thing[] = chosen ? data[chosen.noun] : [];
  const open = all.find((t) => t.id === chosen?.id);
  return (
    <main className="grid gap-6 px-6 py-4 lg:grid-cols-[1fr_290px]">
      <div className="grid content-start gap-2.5">
        <header>
          <h1 className="text-[28px] leading-tight font-bold">{data.name}</h1>
          <p className="text-ash">
            Everything you bake with, drawn to one scale. Choose a thing to change it.{" "}
            <Altitude kitchen={data} onDone={shelves.again} />
          </p>
          <TakeAlong onDone={shelves.again} />
        </header>
        {empty ? (
          <section aria-label="A first step" className="grid justify-items-start gap-3 bg-panel p-4">
            <p className="max-w-xl text-base">
              Nothing here yet. Add what you own below, beginning with a hearth; or begin with an ordinary
              oven, a steel, a stone and a thin tray, and change them.
            </p>
            <OrdinaryKitchen />
          </section>
        ) : null}
        {NOUNS.map(([noun, title, one]) => (
          <Shelf
            key={noun}
            noun={noun}
            title={title}
            one={one}
            kitchen={data}
            kinds={kinds}
            offered={catalogue.data?.[noun] ?? []}
            shelves={shelves}
          />
        ))}
        {adding.error ? (
          <p role="alert" className="text-brick">
            {adding.error.message}
          </p>
        ) : null}
      </div>
      <aside className="grid content-start gap-4 bg-panel p-4">
        {chosen && open ? (
          <Chosen chosen={chosen} open={open} kinds={kinds} shelves={shelves} />
        ) : (
          <p className="text-ash">Choose a thing on the left, or add one, and its figures stand here.</p>
        )}
        {retiring.error ? (
          <p role="alert" className="mt-2 text-brick">
            {retiring.error.message}
          </p>
        ) : null}
      </aside>
    </main>
  );
}
