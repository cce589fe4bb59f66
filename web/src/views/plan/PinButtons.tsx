import { Button } from "../../ui/Button";
/** Pin the plan as it stands; look at what is pinned, or go back to the strip. */
export function PinButtons({
  count,
  busy,
  comparing,
  onPin,
  onCompare,
}: {
  count: number;
  busy: boolean;
  comparing: boolean;
  onPin: () => void;
  onCompare: (comparing: boolean) => void;
}) {
  return (
    <>
      <Button onClick={onPin} disabled={busy}>
        {comparing ? "Pin the plan as it is" : "Pin"}
      </Button>
      {count > 0 || comparing ? (
        <Button
          onClick={() => {
            onCompare(!comparing);
          }}
        >
          {comparing ? "Back to the strip" : `Compare ${String(count)}`}
        </Button>
      ) : null}
    </>
  );
}
