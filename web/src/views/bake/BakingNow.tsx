import { PickBake, usePickedBake } from "../../app/PickBake";
import type { Start } from "../../app/useStartBake";
import { Button } from "../../ui/Button";

/** With nothing planned: what it stands on, the style, how thick; Mattone chooses the rest. */
export function BakingNow({ pending, start }: { pending: boolean; start: (from: Start) => void }) {
  const picked = usePickedBake();
  if (!picked) return null;
  return (
    <section className="mt-6 border-t-2 border-soot pt-3">
      <h2 className="text-[20px] font-bold">I am baking now</h2>
      <PickBake picked={picked} />
      <Button
        look="press"
        className="mt-3 min-h-12 w-full text-[17px]"
        disabled={pending || !picked.chosen}
        onClick={() => {
          start({ sentence: picked.sentence(), thickness: picked.thickness });
        }}
      >
        {pending ? "Being planned" : "Bake this now"}
      </Button>
    </section>
  );
}
