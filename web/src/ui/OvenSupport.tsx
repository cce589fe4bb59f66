import { HeatLabel } from "./HeatLabel";
import { drawnMm, PX, type OvenGeometry, type OvenState } from "./ovenGeometry";
import { SectionFilling, SectionPizza } from "./SectionPizza";

/** What stands on the rack with the dough on it; `top`: where it stands, px. */
export function OvenSupport({ oven, at, top }: { oven: OvenState; at: OvenGeometry; top: number }) {
  const { CAVITY } = at;
  const deckTop = top;
  const deckThick = oven.deck ? drawnMm(oven.deck.thicknessMm) : 0;
  const panThick = oven.pan ? drawnMm(oven.pan.thicknessMm) : 0;
  const thick = deckThick + panThick;
  const deckW = Math.min(oven.deck?.widthCm ?? 0, 45) * PX;
  const panW = Math.min(oven.pan?.widthCm ?? 0, 45) * PX;
  const wide = Math.max(deckW, panW);
  const cx = CAVITY.x + CAVITY.w / 2;
  return (
    <>
      <rect
        x={cx - wide / 2 - 8}
        y={deckTop - thick - 36}
        width={wide + 16}
        height={thick + 46}
        fill="transparent"
      />
      {oven.deck ? (
        <rect
          x={cx - deckW / 2}
          y={deckTop - deckThick}
          width={deckW}
          height={deckThick}
          fill={
            oven.deck.kind === "stone" || oven.deck.kind === "firebrick" ? "var(--stone)" : "var(--metal)"
          }
          stroke="var(--soot)"
          strokeWidth="0.8"
        />
      ) : null}
      {oven.pan?.filled ? (
        <SectionFilling
          cx={cx}
          base={deckTop - thick}
          width={panW - 4}
          rise={oven.rise}
          crust={oven.crustColour}
          cheese={oven.cheeseColour}
        />
      ) : (
        <SectionPizza
          px={PX}
          cx={cx}
          base={deckTop - thick}
          cm={oven.pizzaCm}
          rise={oven.rise}
          crust={oven.crustColour}
          cheese={oven.cheeseColour}
        />
      )}
      {oven.pan ? (
        <path
          d={`M${String(cx - panW / 2 - 6)} ${String(deckTop - thick - (oven.pan.filled ? 26 : 12))} L${String(cx - panW / 2)} ${String(deckTop - deckThick - panThick / 2)} H${String(cx + panW / 2)} L${String(cx + panW / 2 + 6)} ${String(deckTop - thick - (oven.pan.filled ? 26 : 12))}`}
          fill="none"
          stroke={oven.pan.kind === "bright_aluminium" ? "var(--stone)" : "var(--soot)"}
          strokeWidth={Math.max(2.4, panThick)}
        />
      ) : null}
      <HeatLabel
        x={cx}
        y={deckTop + 17}
        what={oven.deck ? "deck" : oven.pan?.filled ? "pan" : "tray"}
        tempC={oven.deckC}
      />
    </>
  );
}
