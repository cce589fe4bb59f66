import { useShortcut } from "../../app/useShortcut";
import { Button } from "../../ui/Button";
import { Caution } from "../../ui/Caution";
import { useUnits } from "../../ui/units";
import { bakeTime } from "../../ui/time";
import { clockOf } from "./clockOf";
import { DeckReading, FlourReading } from "./DeckReading";
import { DeckWay } from "./DeckWay";
import { type Due, handsNow, launchMs, REST_S } from "../../ui/bakeDue";
import { standing, type Stages } from "../../ui/bakeStages";
import type { Happened, Live, Tell } from "../../ui/bakeTypes";

/** Waiting for the deck: how it stands, when it is ready, and what launching at once would bring. */
export function Heating({
  live,
  heatOnMs,
  stage,
  due,
  happened,
  now,
  tell,
}: {
  live: Live | undefined;
  heatOnMs: number;
  stage: Stages;
  due: Due | null;
  happened: readonly Happened[];
  now: number;
  tell: Tell;
}) {
  const units = useUnits();
  const launch = live?.launch;
  const atMs = launchMs(live ?? null, stage, heatOnMs);
  const isReady = atMs !== null && now >= atMs - 30_000;
  const hands = handsNow(live ?? null, atMs, now);
  const freeMs = stage.beforeMs ?? heatOnMs;
  const go = () => {
    tell("bake.launched");
  };
  useShortcut([" "], (_, e) => {
    e.preventDefault();
    if (isReady) go();
  });
  const readings = standing(happened)
    .filter(
      (one) =>
        one.kind === "bake.read" && typeof one.payload.deck_c === "number" && Date.parse(one.at) >= freeMs,
    )
    .map((one) => ({
      minutes: (Date.parse(one.at) - heatOnMs) / 60_000,
      deck_c: Number(one.payload.deck_c),
    }));
  return (
    <div className="grid gap-x-8 md:grid-cols-2">
      <div>
        {launch?.wanted_c != null ? (
          <p className="flex items-end gap-3">
            <span className="font-display text-[clamp(72px,24vw,120px)] leading-none font-bold tabular-nums">
              {units.temp(launch.deck_now_c).replace(/\s?°[CF]/, "")}
            </span>
            <span className="pb-2 leading-tight">
              <span className="block text-[18px] text-ash">{units.as("°C").unit} deck, about</span>
              <span className="block text-[18px] font-bold">wanted {units.temp(launch.wanted_c)}</span>
            </span>
          </p>
        ) : null}
        {atMs !== null ? (
          <>
            <p
              className="mt-1 font-display text-[clamp(26px,8vw,40px)] leading-tight font-bold text-brick"
              data-testid="next"
            >
              {isReady ? "Launch now" : (hands ?? `Launch about ${clockOf(atMs)}`)}
            </p>
            <p className="text-[18px]">
              {hands && !isReady ? `Launch about ${clockOf(atMs)}: ` : ""}
              {launch
                ? `${clockOf(heatOnMs + launch.at_s_low * 1000)} to ${clockOf(heatOnMs + launch.at_s_high * 1000)}. `
                : "By how long a deck takes; "}
              {launch ? units.say(live?.says[0] ?? "") : "read it if you can."}
            </p>
            {stage.beforeMs !== null && now < stage.beforeMs + (REST_S + 60) * 1000 ? (
              <p className="mt-1 text-[18px] font-semibold">
                The last one:{" "}
                {now < stage.beforeMs + REST_S * 1000
                  ? `rest it, cut it in ${bakeTime((stage.beforeMs + REST_S * 1000 - now) / 1000)}`
                  : "cut it now"}
              </p>
            ) : null}
            {due && !isReady && due.text !== hands && due.atMs > now ? (
              <p className="mt-1 text-[17px] text-ash">
                Next: {due.text}, at {clockOf(due.atMs)}
              </p>
            ) : null}
          </>
        ) : (
          <p className="mt-4 text-[20px] text-ash">How the deck stands is being worked out.</p>
        )}
        {(live?.says ?? []).slice(2).map((text) => (
          <p key={text} className="mt-2 border-l-4 border-brick pl-3 text-[17px]">
            {units.say(text)}
          </p>
        ))}
        {(live?.coming ?? [])
          .filter((one) => one.at_s < 0)
          .map((one) => (
            <p key={`${one.do} ${String(one.at_s)}`} className="mt-1 text-[18px] font-semibold">
              {one.label}, {Math.round(-one.at_s / 60)} min before you launch
            </p>
          ))}
        <DeckReading tell={tell} />
        <FlourReading tell={tell} />
        <p className="mt-1 text-ash">Infrared at the centre; bare steel reads right at 0.8.</p>
      </div>
      <div>
        {launch?.wanted_c != null ? (
          <DeckWay
            launch={launch}
            readings={readings}
            nowMin={(now - heatOnMs) / 60_000}
            fromMin={(freeMs - heatOnMs) / 60_000}
          />
        ) : null}
        <div className="mt-3">
          <Caution text="Stone, steel, pan and rack stay dangerous for an hour; vents free, kitchen aired." />
        </div>
        <Button
          look={isReady ? "press" : "quiet"}
          className="mt-4 min-h-14 w-full text-[20px] font-bold"
          onClick={go}
        >
          {isReady ? "Launched" : "Launched, without waiting"}
        </Button>
        {launch && !isReady ? <p className="mt-1 text-[15px]">{units.say(launch.at_once)}</p> : null}
      </div>
    </div>
  );
}
