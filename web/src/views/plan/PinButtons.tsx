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
      <button type="button" className="quiet" onClick={onPin} disabled={busy}>
        {comparing ? "Pin the plan as it is" : "Pin"}
      </button>
      {count > 0 || comparing ? (
        <button
          type="button"
          className="quiet"
          onClick={() => {
            onCompare(!comparing);
          }}
        >
          {comparing ? "Back to the strip" : `Compare ${String(count)}`}
        </button>
      ) : null}
    </>
  );
}
