import { eatenAt, OTHER_STYLE, withTime } from "../../supper/draft";
import { supportKey, supportsFor } from "../../supper/supports";
import type { SupperAtHand } from "../../supper/useSupper";
import type { Reference } from "../../ui/crust";
import { ClockField } from "../../ui/ClockField";
import { hearthKind } from "../../ui/kinds";
import { Picker, type Choice } from "../../ui/Picker";
import { styleOf } from "../../ui/planDraft";
import type { StyleLine } from "../../ui/styles";
import { useUnits } from "../../ui/units";
import { CrustWishes } from "./CrustWishes";
import { People } from "./People";
import { ReleaseWord } from "./ReleaseWord";
import { SizeWord } from "./SizeWord";
import type { Kitchen, Preview, Rigs, Sentence } from "./types";

const TOPPINGS: readonly Choice<Sentence["topping"] & string>[] = [
  { value: "light", label: "light", note: "a third less than usual" },
  { value: "normal", label: "normal", note: "as the style has it" },
  { value: "generous", label: "generous", note: "a third more: slower and wetter" },
];

/** The plan's head: the only form there is. */
export function SentenceHead({
  sentence,
  kitchen,
  rigs,
  reference,
  styles,
  played,
  supper,
  onChange,
}: {
  sentence: Sentence;
  supper: SupperAtHand;
  kitchen: Kitchen;
  rigs: Rigs;
  reference: Reference;
  styles: readonly StyleLine[];
  played: Preview | undefined;
  onChange: (change: Partial<Sentence>, fresh: boolean) => void;
}) {
  const units = useUnits();
  const wanted = played?.result.wanted;
  const cautionsOf = (part: string) =>
    (played?.result.cautions ?? []).filter((c) => c.part === part).map((c) => units.say(c.text));
  const style = styleOf(sentence, styles);
  const supports = supportsFor(style, sentence.hearth_id, kitchen, rigs, units);
  // A change of style or hearth keeps what the dough stands on where it can, else takes the first there is.
  const standing = (asked: StyleLine | undefined, hearthId: number) => {
    const offered = supportsFor(asked, hearthId, kitchen, rigs, units);
    return offered.some((s) => s.value === supportKey(sentence)) ? {} : (offered[0]?.ids ?? {});
  };
  const names = played?.names;
  const support =
    supports.find((s) => s.value === supportKey(sentence))?.label ??
    (names && !names.pan && !names.surface ? "its own floor" : undefined) ??
    (names?.pan && names.surface ? `${names.pan} on the ${names.surface}` : (names?.surface ?? names?.pan)) ??
    "nothing";
  return (
    <p className="font-display text-[25px] leading-[1.42] tracking-tight" style={{ fontStretch: "88%" }}>
      <Picker
        id="sentence"
        label="style"
        cautions={cautionsOf("style")}
        shown={capital(style?.name ?? sentence.style ?? "")}
        value={style?.key ?? sentence.style ?? "home_oven_round"}
        choices={styles.map((s) => ({ value: s.key, label: s.name, note: s.about }))}
        onPick={(value) => {
          const picked = styles.find((s) => s.key === value);
          if (!picked) return;
          const named =
            picked.ownId === null
              ? { style: value as NonNullable<Sentence["style"]>, own_style_id: null }
              : { own_style_id: picked.ownId };
          onChange(
            {
              ...named,
              ...OTHER_STYLE,
              ...standing(picked, sentence.hearth_id),
            },
            true,
          );
        }}
      />
      {style ? (
        <SizeWord sentence={sentence} style={style} kitchen={kitchen} played={played} onChange={onChange} />
      ) : null}{" "}
      for{" "}
      <People
        value={sentence.people ?? 2}
        onChange={(people) => {
          onChange({ people }, false);
        }}
      />{" "}
      on the{" "}
      <Picker
        label="surface"
        cautions={cautionsOf("surface")}
        shown={support}
        value={supportKey(sentence)}
        choices={supports}
        onPick={(value) => {
          const ids = supports.find((s) => s.value === value)?.ids;
          if (ids)
            onChange(
              {
                ...ids,
                method: null,
                pan_width_cm: null,
                pan_depth_cm: null,
                ...(ids.surface_id === null ? { deck_reading_c: null } : {}),
              },
              true,
            );
        }}
      />{" "}
      in the{" "}
      <Picker
        label="hearth"
        cautions={cautionsOf("hearth")}
        shown={kitchen.hearths.find((h) => h.id === sentence.hearth_id)?.name ?? names?.hearth ?? "oven"}
        value={sentence.hearth_id}
        choices={kitchen.hearths
          .filter((h) => hearthKind(reference.kinds, h.kind)?.heat !== "burner")
          .map((h) => ({
            value: h.id,
            label: h.name,
            note:
              hearthKind(reference.kinds, h.kind)?.heat === "fire"
                ? `its floor to ${units.temp(h.max_setpoint_c ?? 400)}, outdoors`
                : `dial to ${units.temp(h.max_setpoint_c ?? 250)}, ${String(h.levels)} levels${h.dial_error_k ? `, really ${units.tempDifference(Math.abs(h.dial_error_k))} ${h.dial_error_k < 0 ? "cooler" : "hotter"}` : ""}`,
          }))}
        onPick={(hearth_id) => {
          onChange({ hearth_id, method: null, deck_reading_c: null, ...standing(style, hearth_id) }, true);
        }}
      />
      , <ReleaseWord sentence={sentence} under={played?.under} reference={reference} onChange={onChange} />
      <CrustWishes sentence={sentence} reference={reference} wanted={wanted} onChange={onChange} />, topping{" "}
      <Picker
        label="topping"
        cautions={cautionsOf("topping")}
        shown={sentence.topping ?? "normal"}
        value={sentence.topping ?? "normal"}
        choices={TOPPINGS}
        onPick={(topping) => {
          onChange({ topping }, false);
        }}
      />
      , eaten at{" "}
      <ClockField
        label="first pizza on the table at"
        value={eatenAt(supper.draft, sentence)}
        onChange={(time) => {
          if (supper.draft.words) supper.change((was) => withTime(was, time));
          else onChange({ serve_at: time }, false);
        }}
      />
    </p>
  );
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
