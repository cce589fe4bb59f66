import { Button } from "../../ui/Button";

/** Something that would make the plan possible: what it does, as a button says it. */
export interface WayOut {
  text: string;
  take: () => void;
}

/** Why the plan is not possible as it is, and what would make it so. */
export function Refused({
  message,
  waysOut,
  onAgain,
}: {
  message: string;
  waysOut: readonly WayOut[];
  onAgain: () => void;
}) {
  const offered = waysOut.length > 0 ? waysOut : [{ text: "Try again", take: onAgain }];
  return (
    <p
      role="alert"
      className="mt-1 flex flex-wrap items-baseline gap-3 border-l-4 border-brick bg-brick-wash px-3 py-2"
    >
      <span>{message}</span>
      {offered.map((way) => (
        <Button key={way.text} look="link" className="font-semibold text-air" onClick={way.take}>
          {way.text}
        </Button>
      ))}
    </p>
  );
}
