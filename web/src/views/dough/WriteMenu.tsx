import { Popover } from "radix-ui";
import { useState } from "react";
import { answer, client, Refusal } from "../../api/client";
import { asked, type DoughDraft } from "./types";

const FORMS = [
  { form: "text", name: "a plain list", type: "text/plain" },
  { form: "recipe", name: "a Recipe in JSON-LD", type: "application/ld+json" },
  { form: "csv", name: "a CSV table", type: "text/csv" },
] as const;

/** The dough for other programs. */
export function WriteMenu({ draft, name }: { draft: DoughDraft; name: string }) {
  const [problem, setProblem] = useState("");
  const write = async (form: (typeof FORMS)[number]) => {
    try {
      const told = await answer(
        client.POST("/api/dough/write", { body: { name, dough: asked(draft.dough), form: form.form } }),
      );
      setProblem("");
      download(told.filename, told.text, form.type);
    } catch (error) {
      setProblem(error instanceof Refusal ? error.message : "It could not be written.");
    }
  };
  return (
    <Popover.Root>
      <Popover.Trigger className="underline underline-offset-2">save as a file</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content aria-label="Save as a file" align="end" className="leaf z-20 grid w-56 p-2">
          {FORMS.map((form) => (
            <button
              key={form.form}
              type="button"
              className="px-2 py-1.5 text-left hover:bg-brick-wash"
              onClick={() => void write(form)}
            >
              {form.name}
            </button>
          ))}
          {problem ? (
            <p role="alert" className="px-2 text-brick">
              {problem}
            </p>
          ) : null}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function download(filename: string, text: string, type: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = filename;
  link.click();
  setTimeout(() => {
    URL.revokeObjectURL(link.href);
  }, 5000);
}
