import { useQuery } from "@tanstack/react-query";
import { server } from "../api/queries";
import { Button } from "../ui/Button";
import { Figure } from "../ui/Figure";
import { momentSaid } from "../ui/moment";
import { MomentField } from "../ui/MomentField";
import { Options } from "../ui/Picker";
import { useDoughReference } from "../ui/dough";
import { newDraft, styleOf } from "../ui/planDraft";
import { useReference } from "../ui/styles";
import { nowIn } from "../ui/time";
import { MOST_PIZZAS, onePile, programmed, withPizzas, withRig, withStyle, withWords } from "./draft";
import { MOST_NAME, useTaken } from "./Library";
import { rigsFor, supportKey } from "./supports";
import type { SupperAtHand } from "./useSupper";
import { useFirstWords } from "./useFirstWords";

export interface LinePart {
  supper: SupperAtHand;
  /** Called when a choice was made and nothing is left to choose here. */
  done: () => void;
}

export function WhenPart({ supper }: LinePart) {
  const { words } = useFirstWords(supper);
  if (!words) return <Waiting />;
  const zone = words.time_zone ?? "UTC";
  const on = (serve_at: string) => {
    supper.change((was) => withWords(was, words, { serve_at }));
  };
  return (
    <div className="grid justify-items-start gap-1">
      <span className="text-ash">First pizza on the table</span>
      <MomentField
        label="First pizza on the table, day and time"
        value={supper.draft.words?.serve_at ?? ""}
        lean="next"
        zone={zone}
        big
        onChange={on}
      />
      {supper.draft.words ? null : (
        <Button
          onClick={() => {
            on(words.serve_at);
          }}
        >
          {momentSaid(words.serve_at, nowIn(zone))}
        </Button>
      )}
    </div>
  );
}

export function WhatPart({ supper, done }: LinePart) {
  const { words } = useFirstWords(supper);
  const reference = useReference();
  const rigs = useQuery(server.rigs);
  const take = useTaken(supper);
  const { dough } = supper.draft;
  const { plan } = supper.shown;
  if (!words || !reference.data || !rigs.data) return <Waiting />;
  const { styles } = reference.data;
  const now = styleOf(plan?.sentence ?? dough?.dough.formula, styles);
  // A dough is of a known style; a style of one's own is planned.
  const offered = styles.filter((one) => one.ownId === null || (plan && !dough));
  const several = dough !== null && onePile(dough.dough) === null;
  return (
    <>
      <label className="flex items-baseline gap-2">
        <Figure
          label="Pizzas"
          value={words.pizzas ?? 4}
          digits={0}
          step={1}
          wide="w-12"
          bounds={[1, MOST_PIZZAS]}
          onChange={(value) => {
            supper.change((was) => withPizzas(was, was.words ?? words, Math.round(value)));
          }}
        />
        <span>pizzas{several ? "; how many of each size, in Dough" : ""}</span>
      </label>
      <Options
        label="style"
        value={now?.key ?? ""}
        choices={offered.map((one) => ({ value: one.key, label: one.name, note: one.about }))}
        onPick={(key) => {
          const picked = offered.find((one) => one.key === key);
          done();
          if (!picked || picked === now) return;
          const places = rigsFor(picked, rigs.data);
          take(`It is ${picked.name} now.`, (was) => withStyle(was, picked, plan, places));
        }}
      />
    </>
  );
}

export function WherePart({ supper, done }: LinePart) {
  const reference = useReference();
  const rigs = useQuery(server.rigs);
  const take = useTaken(supper);
  const { plan } = supper.shown;
  if (!reference.data || !rigs.data) return <Waiting />;
  const ofDough = supper.draft.dough?.dough.formula.style ?? "home_oven_round";
  const sentence = plan?.sentence;
  const known = styleOf(sentence ?? { style: ofDough }, reference.data.styles);
  const places = rigsFor(known, rigs.data);
  const keyOf = (rig: { hearth_id: number; surface_id?: number | null; pan_id?: number | null }) =>
    `h${String(rig.hearth_id)}${supportKey(rig)}`;
  if (places.length === 0) return <p>Nothing in this kitchen bakes {known?.name ?? "it"}.</p>;
  return (
    <Options
      label="where it is baked"
      value={sentence ? keyOf(sentence) : ""}
      choices={places.map((rig) => ({ value: keyOf(rig), label: rig.support, note: rig.hearth }))}
      onPick={(key) => {
        const rig = places.find((one) => keyOf(one) === key);
        done();
        if (!rig || (sentence && keyOf(sentence) === key)) return;
        const before = plan ?? { sentence: newDraft(ofDough, rig).sentence, controls: null };
        take(`It is baked on ${rig.support} now.`, (was) => withRig(was, was.plan ?? before, rig));
      }}
    />
  );
}

export function DoughPart({ supper, done }: LinePart) {
  const { words } = useFirstWords(supper);
  const things = useDoughReference();
  const { dough } = supper.draft;
  if (!words || !things.data) return <Waiting />;
  const hours = dough ? [{ key: "own", name: "its own hours", about: "as set on its curve" }] : [];
  return (
    <>
      {dough ? (
        <label className="grid gap-1">
          <span className="text-ash">Called</span>
          <input
            className="field"
            maxLength={MOST_NAME}
            value={dough.name}
            onChange={(e) => {
              const name = e.target.value;
              supper.change((was) => (was.dough ? { ...was, dough: { ...was.dough, name } } : was));
            }}
          />
        </label>
      ) : null}
      <Options
        label="hours"
        value={words.programme ?? "cold_1"}
        choices={[...things.data.programmes, ...hours].map((one) => ({
          value: one.key,
          label: one.name,
          note: one.about,
        }))}
        onPick={(key) => {
          supper.change((was) =>
            withWords(was, words, programmed(key, was.words ?? words, was.dough !== null)),
          );
          done();
        }}
      />
    </>
  );
}

function Waiting() {
  return <div className="h-16 bg-well waiting" aria-busy="true" />;
}
