import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "../../api/client";

export type BroughtIn = Schemas["BroughtIn"];

/** A book's text is no larger than this; with photos it comes as a zip. */
const LARGEST = 6_000_000;
const LARGEST_ZIP = 600 * 2 ** 20;

type Held = { text: string } | { zip: File };

function send(held: Held, keep: boolean): Promise<BroughtIn> {
  if ("text" in held) return answer(client.POST("/api/logbook/import", { body: { text: held.text, keep } }));
  return answer(
    client.POST("/api/logbook/import-photos", {
      params: { query: { keep } },
      // A file is told as text in the schema, and sent as what it is.
      body: { file: held.zip as unknown as string },
      bodySerializer: () => {
        const form = new FormData();
        form.append("file", held.zip);
        return form;
      },
    }),
  );
}

/** A book that is brought in: looked at first, kept when the cook says so. */
export function useBringIn(weigh: () => void) {
  const queries = useQueryClient();
  const [held, setHeld] = useState<Held | null>(null);
  const [wrong, setWrong] = useState("");
  const bringing = useMutation({
    mutationFn: ({ what, keep }: { what: Held; keep: boolean }) => send(what, keep),
    onSuccess: (told) => {
      if (!told.kept) return;
      setHeld(null);
      void queries.invalidateQueries({ queryKey: ["logbook"] });
      weigh();
    },
  });
  const look = async (file: File) => {
    bringing.reset();
    setWrong("");
    const zipped = file.name.toLowerCase().endsWith(".zip");
    if (file.size > (zipped ? LARGEST_ZIP : LARGEST)) {
      setWrong("This file is larger than a book can be; give one that was taken along here.");
      return;
    }
    const what = zipped ? { zip: file } : { text: await file.text() };
    if (file.size === 0 || ("text" in what && !what.text.trim())) {
      setWrong("There is nothing in this file.");
      return;
    }
    setHeld(what);
    bringing.mutate({ what, keep: false });
  };
  return {
    read: (file: File) => void look(file),
    keep: () => {
      if (held) bringing.mutate({ what: held, keep: true });
    },
    told: bringing.data,
    busy: bringing.isPending,
    problem: wrong || bringing.error?.message,
  };
}
