import { server } from "../../api/queries";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useUndo } from "../../app/Undo";
import { add, bringBack, change, retire, type Noun, type Values } from "./things";

export interface Chosen {
  noun: Noun;
  id: number;
}

/** What is chosen of the kitchen, and everything that can be done with its things. */
export function useShelves() {
  const queries = useQueryClient();
  const offerUndo = useUndo();
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const again = async () => {
    await queries.invalidateQueries({ queryKey: server.kitchen.queryKey });
    await queries.invalidateQueries({ queryKey: server.match.queryKey });
  };
  const adding = useMutation({
    mutationFn: ({ noun, values }: { noun: Noun; values: Values }) => add(noun, values),
    onSuccess: async (made, { noun }) => {
      await again();
      setChosen({ noun, id: made.id });
    },
  });
  const changing = useMutation({
    mutationFn: ({ noun, id, values, version }: Chosen & { values: Values; version: number }) =>
      change(noun, id, values, version),
    onSuccess: again,
  });
  const retiring = useMutation({
    mutationFn: ({ noun, id, version }: Chosen & { name: string; version: number }) =>
      retire(noun, id, version),
    onSuccess: async (_, { noun, id, name }) => {
      setChosen(null);
      await again();
      offerUndo({
        text: `${name} is retired; saved plans keep it.`,
        undo: () => {
          void bringBack(noun, id).then(again);
        },
      });
    },
  });
  const settled = () => {
    changing.reset();
  };
  const choose = (next: Chosen) => {
    setChosen(next);
    settled();
  };
  return { chosen, choose, settled, again, adding, changing, retiring };
}

export type Shelves = ReturnType<typeof useShelves>;
