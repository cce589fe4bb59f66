import { server } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";

/** The plan's dough: make one for it, or bake one that is saved. */
export function DoughMenu({
  busy,
  chosen,
  onMake,
  onChoose,
}: {
  busy: boolean;
  chosen: number | null;
  onMake: () => void;
  onChoose: (doughId: number | null) => void;
}) {
  const doughs = useQuery(server.doughs);
  return (
    <Popover.Root>
      <Popover.Trigger className="quiet">Its dough</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Its dough"
          align="end"
          sideOffset={6}
          className="leaf z-20 grid w-72 p-2"
        >
          <button
            type="button"
            className="px-2 py-1.5 text-left font-semibold text-air hover:bg-brick-wash"
            disabled={busy}
            onClick={onMake}
          >
            Make its dough
          </button>
          {doughs.data?.length ? <p className="px-2 pt-2 text-[13px] text-ash">or bake it with</p> : null}
          {[{ id: null, name: "the style’s own dough" }, ...(doughs.data ?? [])].map((dough) =>
            doughs.data?.length ? (
              <button
                key={String(dough.id)}
                type="button"
                aria-pressed={dough.id === chosen}
                className={`px-2 py-1.5 text-left hover:bg-brick-wash ${dough.id === chosen ? "font-bold" : ""}`}
                onClick={() => {
                  onChoose(dough.id);
                }}
              >
                {dough.name}
              </button>
            ) : null,
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
