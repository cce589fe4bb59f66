import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { server } from "../api/queries";
import { rememberedSupper, supperAtHand } from "./atHand";
import { newIsBegun, NEW } from "./draft";

/** The supper of this address: its saved form where it has one, and who is signed in. */
export function useSupperPlace() {
  const { supperId = NEW } = useParams();
  const id = supperId === NEW ? null : Number(supperId);
  const session = useQuery(server.session);
  const saved = useQuery({ ...server.supper(id ?? 0), enabled: id !== null });
  return {
    id,
    owner: session.data?.owner ?? null,
    saved: id === null ? null : (saved.data ?? null),
    ready: session.data != null && (id === null || saved.data !== undefined),
    problem: id === null ? null : saved.error,
    again: () => {
      if (id !== null) void saved.refetch();
    },
  };
}

/** The supper at hand, in a view that has none in its address; a new one where it cannot be read. */
export function useSupperHere(owner: string) {
  const suppers = useQuery(server.suppers);
  // Which one it is stays, while this view is open.
  const [place, settle] = useState<string | null>(null);
  if (place === null && (suppers.data ?? suppers.error))
    settle(supperAtHand(suppers.data ?? [], rememberedSupper(), newIsBegun(owner), Date.now()));
  const id = place === null || place === NEW ? null : Number(place);
  const saved = useQuery({ ...server.supper(id ?? 0), enabled: id !== null });
  return {
    place: place ?? NEW,
    saved: id === null ? null : (saved.data ?? null),
    ready: place !== null && (id === null || saved.data !== undefined || saved.error !== null),
  };
}
