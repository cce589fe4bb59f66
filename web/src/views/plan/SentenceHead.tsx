import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { readDoughs } from "../../api/saved";
import type { Reference } from "../../ui/crust";
import { crustColour } from "../../ui/crust";
import { ClockField } from "../../ui/ClockField";
import { hearthKind } from "../../ui/kinds";
import { Picker, type Choice } from "../../ui/Picker";
import type { StyleLine } from "../../ui/styles";
import { useUnits } from "../../ui/units";
import { styleOf, type Kitchen, type Preview, type Rigs, type Sentence } from "./types";

type Word = NonNullable<Sentence["bottom"]>;

const TOPPINGS: readonly Choice<Sentence["topping"] & string>[] = [
  { value: "light", label: "light", note: "a third less than usual" },
  { value: "normal", label: "normal", note: "as the style has it" },
  { value: "generous", label: "generous", note: "a third more: slower and wetter" },
];
const CRUMBS: readonly Choice<Sentence["crumb"] & string>[] = [
  { value: "soft", label: "soft", note: "as short a bake as the crust allows" },
  { value: "even", label: "as usual", note: "as the style has it" },
  { value: "crisp", label: "crisp", note: "longer and drier" },
];

/** A surface, a tray or pan on the rack, or a pan on a surface, as one key: "s3", "p7", "s3p7". */
function supportKey(s: Pick<Sentence, "surface_id" | "pan_id">): string {
  return (
    (s.surface_id != null ? `s${String(s.surface_id)}` : "") +
    (s.pan_id != null ? `p${String(s.pan_id)}` : "")
  );
}

interface Support extends Choice<string> {
  ids: { surface_id: number | null; pan_id: number | null };
}

/** What this kitchen offers a style to stand on in or over this hearth. */
function supportsFor(
  style: StyleLine | undefined,
  hearthId: number,
  kitchen: Kitchen,
  rigs: Rigs,
  units: ReturnType<typeof useUnits>,
): Support[] {
  const offered = rigs.rigs.filter(
    (rig) =>
      rig.hearth_id === hearthId &&
      (style?.ownId != null ? rig.own_styles.includes(style.ownId) : rig.styles.includes(style?.key ?? "")),
  );
  return offered.map((rig) => {
    const surface = kitchen.surfaces.find((s) => s.id === rig.surface_id);
    const pan = kitchen.pans.find((p) => p.id === rig.pan_id);
    const thing = pan ?? surface;
    const size = thing ? `${units.size(thing.width_cm)} by ${units.size(thing.depth_cm)}` : "";
    const place = pan ? (surface ? "on the hot deck" : "on a rack or grate") : "";
    return {
      ids: { surface_id: rig.surface_id, pan_id: rig.pan_id },
      value: supportKey(rig),
      label: pan && surface ? `${pan.name} on the ${surface.name}` : rig.support,
      note: pan
        ? `${size}, ${place}`
        : surface
          ? `${surface.kind.replace("_", " ")}, ${units.length(surface.thickness_mm)}, ${size}`
          : rig.note,
    };
  });
}

/** The plan's head: the only form there is. */
export function SentenceHead({
  sentence,
  kitchen,
  rigs,
  reference,
  styles,
  played,
  onChange,
}: {
  sentence: Sentence;
  kitchen: Kitchen;
  rigs: Rigs;
  reference: Reference;
  styles: readonly StyleLine[];
  played: Preview | undefined;
  onChange: (change: Partial<Sentence>, fresh: boolean) => void;
}) {
  const units = useUnits();
  const doughs = useQuery({ queryKey: ["doughs"], queryFn: readDoughs });
  const wanted = played?.result.wanted;
  const cautionsOf = (part: string) =>
    (played?.result.cautions ?? []).filter((c) => c.part === part).map((c) => units.say(c.text));
  const centre = (word: string): number => {
    const i = reference.words.findIndex((w) => w.word === word);
    const low = reference.words[i]?.above_l ?? 0;
    return ((reference.words[i - 1]?.above_l ?? 84) + (word === "charred" ? 28 : low)) / 2;
  };
  const wordFor = (l: number | undefined) =>
    l === undefined ? "as the style has it" : (reference.words.find((w) => l > w.above_l)?.word ?? "charred");
  const colours: Choice<Word | null>[] = [
    { value: null, label: "as the style has it" },
    ...reference.words
      .filter((w) => w.word !== "charred" && w.word !== "pale")
      .map((w) => ({
        value: w.word as Word,
        label: w.word,
        swatch: crustColour(reference.ramp, centre(w.word)),
      })),
  ];
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
              bottom: null,
              rim: null,
              method: null,
              ...standing(picked, sentence.hearth_id),
            },
            true,
          );
        }}
      />{" "}
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
              { ...ids, method: null, ...(ids.surface_id === null ? { deck_reading_c: null } : {}) },
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
      , base{" "}
      <Picker
        label="base"
        shown={sentence.bottom ?? wordFor(wanted?.bottom_l)}
        value={sentence.bottom ?? null}
        choices={colours}
        onPick={(bottom) => {
          onChange({ bottom }, false);
        }}
      />
      , rim{" "}
      <Picker
        label="rim"
        shown={sentence.rim ?? wordFor(wanted?.rim_l)}
        value={sentence.rim ?? null}
        choices={colours}
        onPick={(rim) => {
          onChange({ rim }, false);
        }}
      />
      , crumb{" "}
      <Picker
        label="crumb"
        shown={CRUMBS.find((c) => c.value === sentence.crumb)?.label ?? "as usual"}
        value={sentence.crumb ?? "even"}
        choices={CRUMBS}
        onPick={(crumb) => {
          onChange({ crumb }, false);
        }}
      />
      , topping{" "}
      <Picker
        label="topping"
        cautions={cautionsOf("topping")}
        shown={sentence.topping ?? "normal"}
        value={sentence.topping ?? "normal"}
        choices={TOPPINGS}
        onPick={(topping) => {
          onChange({ topping }, false);
        }}
        more={
          <label className="mt-2 flex items-center gap-2 border-t border-line px-3 pt-3 pb-1">
            <input
              type="checkbox"
              checked={sentence.parchment ?? false}
              onChange={(e) => {
                onChange({ parchment: e.target.checked }, false);
              }}
            />
            on parchment
          </label>
        }
      />
      , eaten at{" "}
      <ClockField
        label="first pizza on the table at"
        value={sentence.serve_at ?? "19:30"}
        onChange={(serve_at) => {
          onChange({ serve_at }, false);
        }}
      />
      {doughs.data?.length && sentence.dough_id != null ? (
        <>
          , made of{" "}
          <Picker
            label="dough"
            shown={doughs.data.find((d) => d.id === sentence.dough_id)?.name ?? "the style’s own dough"}
            value={sentence.dough_id ?? 0}
            choices={[
              { value: 0, label: "the style’s own dough" },
              ...doughs.data.map((d) => ({
                value: d.id,
                label: d.name,
                note: `${String(d.pieces)} in ${units.mass(d.dough_g)}`,
              })),
            ]}
            onPick={(id) => {
              onChange({ dough_id: id || null }, true);
            }}
          />
        </>
      ) : null}
    </p>
  );
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

function People({ value, onChange }: { value: number; onChange: (value: number) => void }) {
  const [text, setText] = useState(String(value));
  useEffect(() => {
    setText(String(value));
  }, [value]);
  const number = Number(text);
  const wrong = !(Number.isInteger(number) && number >= 1 && number <= 24);
  return (
    <span className="relative">
      <input
        aria-label="people"
        data-part="people"
        inputMode="numeric"
        className="w-[1.6em] border-b-[2.5px] border-brick bg-transparent text-center font-bold"
        value={text}
        aria-invalid={wrong || undefined}
        aria-describedby={wrong ? "people-wrong" : undefined}
        onChange={(e) => {
          setText(e.target.value);
          const next = Number(e.target.value);
          if (Number.isInteger(next) && next >= 1 && next <= 24) onChange(next);
        }}
      />
      {wrong ? (
        <span
          id="people-wrong"
          role="alert"
          className="leaf absolute top-full left-0 z-10 mt-1 w-56 p-2 font-sans text-[13px] text-brick"
        >
          Give a whole number of people from 1 to 24.
        </span>
      ) : null}
    </span>
  );
}
