import { Trouble } from "../../app/Trouble";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link, Navigate, useParams } from "react-router";
import { server } from "../../api/queries";
import type { Kinds } from "../../ui/kinds";
import { useReference } from "../../ui/styles";
import type { Kitchen, Noun, Thing } from "./things";

/** A view of its own for one thing of the kitchen, by the number in its address. */
export function ThingPage<T extends Thing>({
  noun,
  title,
  fits,
  children,
}: {
  noun: Noun;
  title: string;
  /** Whether this view is for such a thing at all. */
  fits: (thing: T, kinds: Kinds) => boolean;
  children: (thing: T, kitchen: Kitchen, kinds: Kinds) => ReactNode;
}) {
  const { thingId } = useParams();
  const kitchen = useQuery(server.kitchen);
  const reference = useReference();
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
      <main aria-busy="true" aria-label="Loading the kitchen" className="m-6 h-[560px] bg-panel waiting" />
    );
  const { kinds } = reference.data.reference;
  const thing = (kitchen.data[noun] as unknown as T[]).find((one) => String(one.id) === thingId);
  if (!thing || !fits(thing, kinds)) return <Navigate to="/kitchen" replace />;
  return (
    <main className="grid gap-3 px-6 py-4">
      <header className="flex flex-wrap items-baseline justify-between gap-3">
        <h1 className="text-[28px] leading-tight font-bold">
          {title} <span className="font-sans text-[16px] font-normal text-ash">{thing.name}</span>
        </h1>
        <Link className="py-2 text-air underline underline-offset-2" to="/kitchen">
          back to the kitchen
        </Link>
      </header>
      {children(thing, kitchen.data, kinds)}
    </main>
  );
}
