import { useState, type ReactNode } from "react";
import { Button } from "./Button";

/** Something of the cook's own, added by its name; what else is said of it stands between the name and the button. */
export function AddByName({
  label,
  add,
  most,
  onAdd,
  children,
}: {
  /** What is asked for, as the field is called. */
  label: string;
  add: string;
  /** So many characters a name has. */
  most: number;
  onAdd: (name: string) => void;
  children?: ReactNode;
}) {
  const [name, setName] = useState("");
  const trimmed = name.trim();
  return (
    <form
      className="flex flex-wrap items-baseline gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!trimmed) return;
        onAdd(trimmed);
        setName("");
      }}
    >
      <input
        aria-label={label}
        className="field min-h-8 w-40 px-2"
        placeholder={label.toLowerCase()}
        maxLength={most}
        value={name}
        onChange={(e) => {
          setName(e.target.value);
        }}
      />
      {trimmed ? children : null}
      <Button disabled={!trimmed} type="submit">
        {add}
      </Button>
    </form>
  );
}
