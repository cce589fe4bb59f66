import { useUnits } from "./units";

/** What can hurt someone, where it can. */
export function Caution({ text }: { text: string }) {
  const units = useUnits();
  return (
    <p className="border-l-2 border-brick pl-2 text-[13px] leading-snug font-semibold text-brick">
      {units.say(text)}
    </p>
  );
}
