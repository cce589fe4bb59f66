import { Button } from "./Button";
import type { ReactNode } from "react";

/** What a thing is called and whether it is saved; beside it, whatever else can be done with it. */
export function NameAndSave({
  label,
  name,
  usual,
  saved,
  held,
  wide = "w-44",
  onName,
  onSave,
  children,
}: {
  label: string;
  name: string;
  /** Its name when the cook gives none. */
  usual: string;
  saved: boolean;
  /** It cannot be saved as it stands. */
  held: boolean;
  wide?: string;
  onName: (name: string) => void;
  onSave: () => void;
  children: ReactNode;
}) {
  return (
    <div className="flex flex-wrap gap-1.5 md:justify-end">
      <input
        aria-label={label}
        className={`${wide} border-b border-line bg-transparent px-1`}
        placeholder={usual}
        maxLength={80}
        value={name}
        onChange={(e) => {
          onName(e.target.value);
        }}
      />
      <Button look="press" className="!px-3 !py-1" disabled={held || saved} onClick={onSave}>
        {saved ? "Saved" : "Save"}
      </Button>
      {children}
    </div>
  );
}
