import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link, useParams } from "react-router";
import { answer, client } from "../../api/client";
import { server } from "../../api/queries";
import { useReference } from "../../ui/styles";
import { Book } from "./Book";
import { EntryDesk } from "./EntryDesk";
import { Taught } from "./Taught";

/** The book on the left; on the right what the kitchen has taught, or the entry that is open. On a phone one of them. */
export function LogbookView() {
  const { entryId } = useParams();
  const open = Number(entryId) || null;
  const reference = useReference().data?.reference;
  const faults = useQuery(server.faults);
  const queries = useQueryClient();
  const { mutate: takeIn } = useMutation({
    mutationFn: async () => {
      // What came in from a file is weighed a few bakes at a time.
      while ((await answer(client.POST("/api/logbook/take-in"))).waiting > 0);
    },
    // Also where nothing was made here: the server makes an entry by itself when a bake ends.
    onSettled: () => queries.invalidateQueries({ queryKey: ["logbook"] }),
  });
  // Bakes that ended meanwhile become entries when the book is opened.
  useEffect(() => {
    takeIn();
  }, [takeIn]);
  if (!reference || !faults.data)
    return <main className="p-6 text-ash waiting">The logbook is being opened</main>;
  return (
    <main className="grid gap-x-8 p-4 md:h-full md:grid-cols-[minmax(20rem,26rem)_1fr] md:p-6">
      <div className={`min-w-0 md:overflow-y-auto ${open ? "hidden md:block" : ""}`}>
        <Book
          open={open}
          reference={reference}
          faults={faults.data.faults}
          weigh={() => {
            takeIn();
          }}
        />
      </div>
      <div className="min-w-0 md:overflow-y-auto">
        {open ? (
          <>
            <Link className="text-air underline underline-offset-2 md:hidden" to="/logbook">
              Back to the book
            </Link>
            <EntryDesk key={open} id={open} reference={reference} faults={faults.data.faults} />
          </>
        ) : (
          <Taught reference={reference} />
        )}
      </div>
    </main>
  );
}
