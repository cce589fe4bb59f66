import { useId, type InputHTMLAttributes } from "react";

/** A labelled field with its hint or error beneath it. */
export function Field({
  label,
  error,
  hint,
  ...input
}: { label: string; error?: string | undefined; hint?: string } & InputHTMLAttributes<HTMLInputElement>) {
  const id = useId();
  const note = error ?? hint;
  return (
    <div className="grid gap-1">
      <label htmlFor={id} className="font-semibold">
        {label}
      </label>
      <input
        id={id}
        className="field"
        aria-invalid={error ? true : undefined}
        aria-describedby={note ? `${id}-note` : undefined}
        {...input}
      />
      {note ? (
        <p id={`${id}-note`} className={error ? "text-brick" : "text-ash"} role={error ? "alert" : undefined}>
          {note}
        </p>
      ) : null}
    </div>
  );
}
