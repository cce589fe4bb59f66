import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { server } from "../api/queries";
import { NEW } from "./draft";

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
