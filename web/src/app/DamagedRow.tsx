import { useMutation } from "@tanstack/react-query";
import { Button } from "../ui/Button";
import { useUndo } from "./Undo";

/** A stored thing that cannot be used: what it is, why, and a way to delete it. */
export function DamagedRow({
  name,
  problem,
  remove,
  restore,
}: {
  name: string;
  problem: string;
  remove: () => Promise<unknown>;
  restore: () => Promise<unknown>;
}) {
  const offerUndo = useUndo();
  const removing = useMutation({
    mutationFn: remove,
    onSuccess: () => {
      offerUndo({ text: `“${name}” is deleted.`, undo: () => void restore().catch(() => null) });
    },
  });
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 py-2" data-testid="damaged">
      <p className="min-w-0 flex-1">
        <span className="font-semibold">{name}</span>
        <span className="block text-[14px] text-brick">{removing.error?.message ?? problem}</span>
      </p>
      <Button
        look="link"
        className="min-h-8 text-brick"
        aria-label={`Delete ${name}`}
        disabled={removing.isPending}
        onClick={() => {
          removing.mutate();
        }}
      >
        Delete
      </Button>
    </div>
  );
}
