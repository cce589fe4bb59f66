import { Button } from "../ui/Button";
/** What a view says when it cannot be fetched: why, once more, or a new one. */
export function Trouble({
  message,
  fresh,
  again,
}: {
  message: string;
  /** Where a new one is begun, and what that is called, if one can be. */
  fresh?: { path: string; name: string };
  again: () => void;
}) {
  return (
    <main className="grid gap-3 p-8">
      <p role="alert" className="text-base">
        {message}
      </p>
      <div className="flex gap-2">
        <Button look="press" onClick={again}>
          Try again
        </Button>
        {fresh ? (
          <a className="quiet" href={fresh.path}>
            {fresh.name}
          </a>
        ) : null}
      </div>
    </main>
  );
}
