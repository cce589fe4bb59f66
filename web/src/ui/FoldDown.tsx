import { Popover } from "radix-ui";
import type { ReactNode } from "react";

/** A word of a sentence that opens what it stands for in place. */
export function FoldDown({
  part,
  label,
  shown,
  said,
  children,
  className,
  id,
  look = "border-b-[2.5px] border-brick text-left font-bold leading-[1.15] hover:bg-brick-wash",
  ...opened
}: {
  part: string;
  label: string;
  shown: ReactNode;
  /** As a screen reader says it, where the word alone is too little. */
  said?: string;
  children: ReactNode;
  className: string;
  id?: string | undefined;
  /** How the word stands in its sentence. */
  look?: string;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
}) {
  return (
    <Popover.Root {...opened}>
      <Popover.Trigger id={id} data-part={part} aria-label={said} className={look}>
        {shown}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content aria-label={label} align="start" sideOffset={6} className={`leaf z-20 ${className}`}>
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
