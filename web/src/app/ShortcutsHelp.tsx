import { Dialog } from "radix-ui";
import { useState } from "react";
import { useShortcut } from "./useShortcut";
import { VIEWS } from "./views";

const KEYS: readonly (readonly [string, string])[] = [
  [`1 – ${String(VIEWS.length)}`, VIEWS.map((view) => view.name).join(", ")],
  ["/", "the sentence"],
  [", .", "scrub the pull 15 s (with shift: 1 min)"],
  ["↑ ↓", "deck to another level"],
  ["t", "top element on or off"],
  ["f", "fan on or off"],
  ["[ ]", "preheat 5 min shorter or longer"],
  ["s", "save"],
  ["arrows", "in Match: to another cell; Enter plans it"],
  ["arrows", "on a border in Dough or a step in Timeline: move it"],
  ["u", "units"],
  ["?", "these keys"],
];

/** All shortcuts, on `?`. */
export function ShortcutsHelp() {
  const [open, setOpen] = useState(false);
  useShortcut(["?"], () => {
    setOpen((was) => !was);
  });
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/30" />
        <Dialog.Content className="leaf fixed top-1/2 left-1/2 w-96 -translate-x-1/2 -translate-y-1/2 p-6">
          <Dialog.Title className="mb-3 font-display text-xl font-bold">Keys</Dialog.Title>
          <Dialog.Description className="sr-only">Keyboard shortcuts of every view</Dialog.Description>
          <dl className="grid grid-cols-[5rem_1fr] gap-y-1.5">
            {KEYS.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="font-semibold text-brick">{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="quiet mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
