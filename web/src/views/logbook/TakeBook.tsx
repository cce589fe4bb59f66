import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { Button } from "../../ui/Button";
import { FilePick } from "../../ui/FilePick";

const LARGEST = 6_000_000;

/** The book as a file, out and in: what a file holds is shown before anything is kept. */
export function TakeBook({ weigh }: { weigh: () => void }) {
  const queries = useQueryClient();
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const bringing = useMutation({
    mutationFn: (asked: { text: string; keep: boolean }) =>
      answer(client.POST("/api/logbook/import", { body: asked })),
    onSuccess: (told) => {
      if (!told.kept) return;
      setText("");
      void queries.invalidateQueries({ queryKey: ["logbook"] });
      weigh();
    },
  });
  const read = async (file: File) => {
    bringing.reset();
    setWrong("");
    if (file.size > LARGEST) {
      setWrong("This file is larger than a book can be; give one that was taken along here.");
      return;
    }
    const found = await file.text();
    if (!found.trim()) {
      setWrong("There is nothing in this file.");
      return;
    }
    setText(found);
    bringing.mutate({ text: found, keep: false });
  };
  const link = "text-air underline underline-offset-2 py-2";
  const told = bringing.data;
  return (
    <div className="mt-4 border-t border-line pt-2">
      <p className="flex flex-wrap gap-x-5">
        <a className={link} href="/api/logbook/export?form=csv" download="logbook.csv">
          take it along as a table
        </a>
        <a className={link} href="/api/logbook/export?form=json" download="logbook.json">
          with everything in it
        </a>
        <FilePick
          label="bring one in"
          accept=".json,.csv,application/json,text/csv"
          className={link}
          pick={(file) => {
            void read(file);
          }}
        />
      </p>
      {wrong || bringing.error ? (
        <p role="alert" className="text-brick">
          {wrong || bringing.error?.message}
        </p>
      ) : null}
      {told ? (
        <div role="status" className="leaf mt-1 p-3">
          <p>
            {told.kept ? `${String(told.new)} came in.` : `${String(told.new)} are new.`}{" "}
            {told.known > 0 ? `${String(told.known)} are in the book already.` : ""}{" "}
            {told.refused > 0 ? `${String(told.refused)} cannot be taken:` : ""}
          </p>
          <ul className="text-[13.5px]">
            {told.why.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          {!told.kept && told.new > 0 ? (
            <Button
              look="press"
              className="mt-2 min-h-11 px-3"
              disabled={bringing.isPending}
              onClick={() => {
                bringing.mutate({ text, keep: true });
              }}
            >
              Put them into the book
            </Button>
          ) : null}
        </div>
      ) : null}
    </div>
  );
}
