import { useId, type ComponentProps } from "react";

/** The one field that numbers are typed into: its text as typed, and what is wrong with it. */
export function NumberInput({
  label,
  text,
  said,
  onText,
  className = "figure",
  ...rest
}: Omit<ComponentProps<"input">, "value" | "onChange" | "type"> & {
  label: string;
  text: string;
  /** What is wrong with it, where that is said beside it; true: said elsewhere. */
  said?: string | boolean | null | undefined;
  onText: (text: string) => void;
}) {
  const id = useId();
  return (
    <>
      <input
        aria-label={label}
        aria-invalid={said ? true : undefined}
        aria-describedby={typeof said === "string" && said ? `${id}-said` : undefined}
        className={className}
        inputMode="decimal"
        value={text}
        onChange={(e) => {
          onText(e.target.value);
        }}
        {...rest}
      />
      {typeof said === "string" && said ? (
        <span
          id={`${id}-said`}
          role="alert"
          className="leaf absolute top-full right-0 z-10 mt-1 w-60 px-2 py-1 text-left font-sans text-[13px] leading-snug font-normal text-brick"
        >
          {said}
        </span>
      ) : null}
    </>
  );
}
