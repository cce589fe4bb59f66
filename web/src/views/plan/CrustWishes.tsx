import { useQuery } from "@tanstack/react-query";
import { server } from "../../api/queries";
import { crustColour, type Reference } from "../../ui/crust";
import { Picker, type Choice } from "../../ui/Picker";
import type { PlanResult, Sentence } from "./types";

type Word = NonNullable<Sentence["base"]>;
const CRUMBS: readonly Choice<Sentence["crumb"] & string>[] = [
  { value: "soft", label: "soft", note: "as short a bake as the crust allows" },
  { value: "even", label: "as usual", note: "as the style has it" },
  { value: "crisp", label: "crisp", note: "longer and drier" },
];

/** The crust that is wanted, part by part; what is left out is as the style has it. */
export function CrustWishes({
  sentence,
  reference,
  wanted,
  onChange,
}: {
  sentence: Sentence;
  reference: Reference;
  wanted: PlanResult["wanted"] | undefined;
  onChange: (change: Partial<Sentence>, fresh: boolean) => void;
}) {
  const centre = (word: string): number => {
    const i = reference.words.findIndex((w) => w.word === word);
    const low = reference.words[i]?.above_l ?? 0;
    return ((reference.words[i - 1]?.above_l ?? 84) + (word === "charred" ? 28 : low)) / 2;
  };
  const wordFor = (l: number | undefined) =>
    l === undefined ? "as the style has it" : (reference.words.find((w) => l > w.above_l)?.word ?? "charred");
  const liked = useQuery(server.liked(sentence.style, sentence.own_style_id ?? null)).data;
  const colours = (best: string | null | undefined): Choice<Word | null>[] => [
    { value: null, label: "as the style has it" },
    ...reference.words
      .filter((w) => w.word !== "charred" && w.word !== "pale")
      .map((w) => ({
        value: w.word as Word,
        label: w.word,
        ...(w.word === best ? { note: "what you score highest" } : {}),
        swatch: crustColour(reference.ramp, centre(w.word)),
      })),
  ];
  return (
    <>
      , base{" "}
      <Picker
        label="base"
        shown={sentence.base ?? wordFor(wanted?.base_l)}
        value={sentence.base ?? null}
        choices={colours(liked?.base)}
        onPick={(base) => {
          onChange({ base }, false);
        }}
      />
      , rim{" "}
      <Picker
        label="rim"
        shown={sentence.rim ?? wordFor(wanted?.rim_l)}
        value={sentence.rim ?? null}
        choices={colours(liked?.rim)}
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
    </>
  );
}
