import { server } from "../api/queries";
import { Button } from "../ui/Button";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useState } from "react";
import { useUndo } from "./Undo";

export interface SavedLine {
  id: number;
  version: number;
  name: string;
  note: string;
  /** Why it cannot be read; empty where it can. */
  problem?: string;
}

/** What is saved of one kind: open one, delete one, take the deletion back. */
export function SavedMenu<Row>({
  title,
  kind,
  first,
  openId,
  onOpen,
  onGone,
  queryKey,
  read,
  line,
  remove,
  restore,
}: {
  title: string;
  /** What one of them is called. */
  kind: string;
  /** What stands above the list: a new one, or keeping what is at hand as one. */
  first: { label: string; act: () => void };
  openId: number | null;
  onOpen: (id: number) => void;
  /** The open one was deleted. */
  onGone?: () => void;
  queryKey: readonly string[];
  read: () => Promise<Row[]>;
  line: (row: Row) => SavedLine;
  remove: (id: number, version: number) => Promise<unknown>;
  restore: (id: number) => Promise<unknown>;
}) {
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const offer = useUndo();
  const rows = useQuery({ queryKey, queryFn: read });
  const refresh = () => {
    void queries.invalidateQueries({ queryKey });
    void queries.invalidateQueries({ queryKey: server.nextStep.queryKey });
  };
  const bringBack = useMutation({ mutationFn: restore, onSuccess: refresh });
  const putAway = useMutation({
    mutationFn: (one: SavedLine) => remove(one.id, one.version),
    onError: refresh,
    onSuccess: (_, one) => {
      offer({
        text: `“${one.name}” is deleted.`,
        undo: () => {
          bringBack.mutate(one.id);
        },
      });
      refresh();
      if (one.id === openId) onGone?.();
    },
  });
  const close = (then: () => void) => {
    setOpen(false);
    then();
  };
  const problem = putAway.error ?? bringBack.error;
  const lines = rows.data?.map(line);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="quiet">{title}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={`Saved ${title.toLowerCase()}`}
          align="end"
          sideOffset={6}
          className="leaf z-20 max-h-[70vh] w-80 overflow-y-auto p-3"
        >
          <button
            type="button"
            className="mb-2 w-full px-2 py-1.5 text-left font-semibold text-air hover:bg-brick-wash"
            onClick={() => {
              close(first.act);
            }}
          >
            {first.label}
          </button>
          {lines?.length === 0 ? <p className="px-2 text-ash">No {kind} is saved yet.</p> : null}
          <ul>
            {lines?.map((one) => (
              <li key={one.id} className="flex items-baseline gap-2 border-t border-line">
                <button
                  type="button"
                  className={`min-w-0 flex-1 px-2 py-2 text-left hover:bg-brick-wash ${one.id === openId ? "font-bold" : ""}`}
                  onClick={() => {
                    close(() => {
                      onOpen(one.id);
                    });
                  }}
                >
                  {one.name}
                  <span className="block text-[13px] font-normal text-ash">{one.note}</span>
                  {one.problem ? (
                    <span className="block text-[13px] font-normal text-brick">{one.problem}</span>
                  ) : null}
                </button>
                <Button
                  aria-label={`Delete ${one.name}`}
                  look="link"
                  className="px-2 py-1 text-[13px] text-brick"
                  onClick={() => {
                    putAway.mutate(one);
                  }}
                >
                  delete
                </Button>
              </li>
            ))}
          </ul>
          {problem ? (
            <p role="alert" className="mt-2 px-2 text-brick">
              {problem.message}
            </p>
          ) : null}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
