import { Button } from "../../ui/Button";
/** Why it does not go as it stands, and a way to ask again. */
export function Refused({ message, onAgain }: { message: string; onAgain: () => void }) {
  return (
    <p
      role="alert"
      className="mt-1 flex flex-wrap items-baseline gap-3 border-l-4 border-brick bg-brick-wash px-3 py-2"
    >
      <span>{message}</span>
      <Button look="link" className="font-semibold text-air" onClick={onAgain}>
        try again
      </Button>
    </p>
  );
}
