import { Button } from "../../ui/Button";
import { useState } from "react";
import { ClockField } from "../../ui/ClockField";
import { Figure } from "../../ui/Figure";
import { MomentField } from "../../ui/MomentField";
import { clockAt, localField } from "./types";

/** When a clock last showed this time. */
function lastAt(time: string): Date {
  const [hours = 0, minutes = 0] = time.split(":").map(Number);
  const moment = new Date();
  moment.setHours(hours, minutes, 0, 0);
  if (moment.getTime() > Date.now()) moment.setDate(moment.getDate() - 1);
  return moment;
}

/** "It is at x1.5 now": what the cook sees, against when it was mixed. */
export function SeenRow({
  mixedAt,
  plannedAt,
  nowH,
  speed,
  count,
  onMixed,
  onSeen,
  onForget,
}: {
  mixedAt: Date | null;
  plannedAt: Date | null;
  nowH: number | null;
  speed: number;
  count: number;
  onMixed: (moment: Date | null) => void;
  onSeen: (ratio: number, moment: Date) => void;
  onForget: () => void;
}) {
  const [ratio, setRatio] = useState(1.5);
  const [at, setAt] = useState(() => clockAt(new Date(), false));
  const wrong = ratio < 1 || ratio > 5;
  const then = lastAt(at);
  const pace = Math.round((speed - 1) * 100);
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-t border-line pt-2">
      <span className="flex items-baseline gap-1.5">
        mixed
        <MomentField
          label="When it was mixed"
          value={mixedAt ? localField(mixedAt) : ""}
          lean="past"
          onChange={(at) => {
            onMixed(new Date(at));
          }}
        />
        {mixedAt ? (
          <Button
            look="link"
            className="text-air"
            onClick={() => {
              onMixed(null);
            }}
          >
            not mixed yet
          </Button>
        ) : null}
      </span>
      {!mixedAt && plannedAt ? (
        <span className="text-ash">planned to be mixed by {clockAt(plannedAt, true)}</span>
      ) : null}
      {!mixedAt ? (
        <Button
          onClick={() => {
            onMixed(new Date());
          }}
        >
          just now
        </Button>
      ) : nowH !== null && nowH > 0.05 ? (
        <span className="flex items-baseline gap-1.5">
          it stands at ×
          <Figure
            label="What it stands at now, against its start"
            value={ratio}
            digits={2}
            step={0.1}
            wide="w-10"
            problem={wrong ? "from 1 to 5 times its start" : undefined}
            onChange={setRatio}
          />
          <Button
            disabled={wrong}
            onClick={() => {
              onSeen(ratio, new Date());
            }}
          >
            now
          </Button>
          <span className="text-ash">or stood so at</span>
          <ClockField small label="When it stood so" value={at} onChange={setAt} />
          <Button
            disabled={wrong || then.getTime() <= mixedAt.getTime()}
            onClick={() => {
              onSeen(ratio, then);
            }}
          >
            then
          </Button>
        </span>
      ) : (
        <span className="text-ash">the curve is by the clock; look at it again while it rises</span>
      )}
      {count ? (
        <span data-testid="pace">
          you looked {count === 1 ? "once" : `${String(count)} times`}:{" "}
          {pace === 0
            ? "as reckoned"
            : `${String(Math.abs(pace))} % ${pace < 0 ? "slower" : "faster"} than reckoned`}{" "}
          <Button look="link" className="text-air" onClick={onForget}>
            forget it
          </Button>
        </span>
      ) : null}
    </div>
  );
}
