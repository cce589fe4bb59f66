import { Button } from "../../ui/Button";
import { FilePick } from "../../ui/FilePick";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, Refusal, type Schemas } from "../../api/client";

type Clashes = NonNullable<Schemas["ImportIn"]["clashes"]>;
const LARGEST = 8_000_000;

/** The whole kitchen as a file, out and in; where names clash the cook decides. */
export function TakeAlong({ onDone }: { onDone: () => Promise<void> }) {
  const [document, setDocument] = useState<Record<string, unknown> | null>(null);
  const [wrong, setWrong] = useState("");
  const [progress, setProgress] = useState("");
  const bringing = useMutation({
    mutationFn: async (asked: { document: Record<string, unknown>; clashes: Clashes }) => {
      // A long one is worked out a few plans at a time; nothing has come in until the last.
      for (;;) {
        const told = await answer(client.POST("/api/exchange/import", { body: asked }));
        if (told.finished) return told;
        setProgress(`${String(told.done)} of ${String(told.total)} plans worked out`);
      }
    },
    onSettled: () => {
      setProgress("");
    },
    onSuccess: async () => {
      setDocument(null);
      await onDone();
    },
  });
  const read = async (file: File) => {
    bringing.reset();
    setWrong("");
    setDocument(null);
    if (file.size > LARGEST) {
      setWrong("This file is larger than a kitchen can be; give one that was exported here.");
      return;
    }
    try {
      const told: unknown = JSON.parse(await file.text());
      if (typeof told !== "object" || told === null || Array.isArray(told)) throw new Error("no document");
      const found = told as Record<string, unknown>;
      setDocument(found);
      bringing.mutate({ document: found, clashes: "refuse" });
    } catch {
      setWrong("This is not whole JSON; give a file that was exported here.");
    }
  };
  const clash = bringing.error instanceof Refusal && bringing.error.path === "clashes";
  const link = "text-air underline underline-offset-2";
  return (
    <div className="mt-0.5 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[13px]">
      <a className={link} href="/api/exchange/export" download="kitchen.json">
        take the kitchen along as a file
      </a>
      <FilePick
        label="bring one in"
        accept=".json,application/json"
        className={link}
        pick={(file) => {
          void read(file);
        }}
      />
      {progress ? <span role="status">{progress} …</span> : null}
      {bringing.data ? (
        <span role="status">
          {(bringing.data.added?.length ?? 0) > 0
            ? `${String(bringing.data.added?.length ?? 0)} things came in.`
            : "Nothing new was in it."}{" "}
          {bringing.data.left_out && bringing.data.left_out.length > 0
            ? `${String(bringing.data.left_out.length)} were here already and left out.`
            : ""}
        </span>
      ) : null}
      {wrong || bringing.error ? (
        <p role="alert" className="w-full text-brick">
          {wrong || bringing.error?.message}{" "}
          {clash && document ? (
            <>
              {(
                [
                  ["keep_both", "keep both"],
                  ["leave_out", "leave those out"],
                ] as const
              ).map(([clashes, text]) => (
                <Button
                  key={clashes}
                  className="mr-2"
                  onClick={() => {
                    bringing.mutate({ document, clashes });
                  }}
                >
                  {text}
                </Button>
              ))}
            </>
          ) : null}
        </p>
      ) : null}
    </div>
  );
}
