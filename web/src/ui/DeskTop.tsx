import type { ReactNode } from "react";
import { Button } from "./Button";
import { NameAndSave } from "./NameAndSave";
import { useUnits } from "./units";
import type { useSaving } from "./useSaving";

/** A desk's head on the right: its name, saving it, beginning again, printing, and what else it can do. */
export function DeskTop({
  noun,
  name,
  usual,
  saving,
  problem = saving.problem,
  touched,
  saved,
  prints,
  menu,
  onName,
  onBegin,
  children,
}: {
  noun: string;
  name: string;
  usual: string;
  saving: Pick<ReturnType<typeof useSaving>, "untouched" | "held" | "doSave" | "problem">;
  problem?: Error | null;
  touched: boolean;
  saved: boolean;
  /** What is printed, as "the sheet". */
  prints: string;
  menu: ReactNode;
  onName: (name: string) => void;
  onBegin: () => void;
  children: ReactNode;
}) {
  const units = useUnits();
  return (
    <div className="grid content-start justify-items-start gap-1 md:justify-items-end">
      <NameAndSave
        label={`Name of the ${noun}`}
        name={name}
        usual={usual}
        saved={saving.untouched}
        held={saving.held}
        onName={onName}
        onSave={saving.doSave}
      >
        {menu}
      </NameAndSave>
      <div className="flex flex-wrap gap-x-3 gap-y-1 text-[13px] text-air md:justify-end">
        {touched ? (
          <Button look="link" onClick={onBegin}>
            {saved ? `back to the ${noun} as saved` : "begin again"}
          </Button>
        ) : null}
        <Button
          look="link"
          onClick={() => {
            window.print();
          }}
        >
          print {prints}
        </Button>
        {children}
      </div>
      {problem ? (
        <p role="alert" className="max-w-80 text-brick md:text-right">
          {units.say(problem.message)}
        </p>
      ) : null}
    </div>
  );
}
