import { useQuery } from "@tanstack/react-query";
import { server } from "../../api/queries";
import { Button } from "../../ui/Button";
import { Caution } from "../../ui/Caution";
import { bakeTime, dateOf } from "../../ui/time";
import { CameForm } from "./CameForm";
import { Foretold } from "./Foretold";
import { NextTime } from "./NextTime";
import { Photos } from "./Photos";
import { withMeasured } from "./photo";
import { SideBySide } from "./SideBySide";
import { useEntry } from "./useEntry";
import { type Entry, type Fault } from "./book";
import type { Reference } from "../../ui/crust";

/** One entry: what came of it, beside what was foretold; every answer can be changed later. */
export function EntryDesk({
  id,
  reference,
  faults,
}: {
  id: number;
  reference: Reference;
  faults: readonly Fault[];
}) {
  const entry = useQuery(server.entry(id));
  if (entry.isError && !entry.data)
    return (
      <p role="alert" className="mt-4 text-brick">
        {entry.error.message}
      </p>
    );
  if (!entry.data) return <p className="mt-4 text-ash waiting">The page is being turned</p>;
  return <Opened entry={entry.data} reference={reference} faults={faults} />;
}

function Opened({
  entry,
  reference,
  faults,
}: {
  entry: Entry;
  reference: Reference;
  faults: readonly Fault[];
}) {
  const desk = useEntry(entry);
  const { draft } = desk;
  return (
    <article className="max-w-2xl pb-24" aria-label={`Entry: ${entry.name}`}>
      <header className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h1 className="font-display text-[28px] font-bold">{draft.name}</h1>
        <p className="text-[17px]">
          {dateOf(entry.baked_at)} · <strong className="tabular-nums">{bakeTime(entry.pulled_s)}</strong>
        </p>
      </header>
      <p className="text-ash">
        {[entry.style_name, entry.support && `on ${entry.support}`, entry.hearth && `in ${entry.hearth}`]
          .filter(Boolean)
          .join(", ")}
      </p>
      <Foretold entry={entry} reference={reference} />
      {entry.told?.asks || entry.told?.deck_asks ? <Surprise entry={entry} say={desk.say} /> : null}
      {entry.teaches_not ? <p className="mt-2">It teaches nothing yet. {entry.teaches_not}</p> : null}
      <CameForm
        came={draft.came}
        change={(came) => {
          desk.change((was) => ({ ...was, came }));
        }}
        reference={reference}
        faults={faults}
      />
      <Photos
        entryId={entry.id}
        take={(photo) => {
          desk.change((was) => ({ ...was, came: withMeasured(was.came, photo) }));
        }}
      />
      <NextTime entry={entry} />
      <SideBySide entry={entry} reference={reference} />
      <Foot entry={entry} desk={desk} />
    </article>
  );
}

/** A bake far from its promise waits for a word. */
function Surprise({ entry, say }: { entry: Entry; say: (counts: boolean) => void }) {
  return (
    <section className="leaf mt-3 border-l-4 border-brick p-3" aria-label="Is this right?">
      <p className="text-[17px] font-semibold">
        {entry.told?.asks
          ? "This came out far from what was expected. Are its minutes and colours right?"
          : "The deck was read far from what was expected. Was the thermometer right?"}
      </p>
      <p>
        Until you say so it {(entry.told?.counted ?? 0) > 0 ? "counts only in part" : "does not count"}, so
        that a slip of the pen teaches nothing.
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button
          look="press"
          className="min-h-11 px-3"
          onClick={() => {
            say(true);
          }}
        >
          It is right
        </Button>
        <Button
          className="min-h-11 px-3"
          onClick={() => {
            say(false);
          }}
        >
          Leave it out
        </Button>
      </div>
    </section>
  );
}

function Foot({ entry, desk }: { entry: Entry; desk: ReturnType<typeof useEntry> }) {
  return (
    <>
      <p className="mt-4 flex flex-wrap items-center justify-between gap-x-4">
        {entry.teaches_not ? (
          <span />
        ) : (
          <label className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="size-5"
              checked={desk.draft.counts !== false}
              onChange={(e) => {
                desk.say(e.target.checked ? null : false);
              }}
            />
            counts towards what is learned
          </label>
        )}
        <a
          className="text-air underline underline-offset-2 py-2"
          href={`/api/logbook/${String(entry.id)}/recipe`}
          download
        >
          as a recipe
        </a>
        <Button look="link" className="min-h-11 text-brick" onClick={desk.remove}>
          Take it out of the book
        </Button>
      </p>
      {desk.draft.came.faults?.includes("burnt_base") ? (
        <Caution text="Loose flour burns on a deck: brush it off when it has cooled." />
      ) : null}
      {desk.touched || desk.problem ? (
        <footer className="sticky bottom-0 mt-2 grid gap-2 bg-ground py-3">
          <Problem desk={desk} />
          {desk.touched ? (
            <Button
              look="press"
              className="min-h-12 w-full md:w-60"
              disabled={desk.saving}
              onClick={desk.save}
            >
              {desk.saving ? "Being weighed" : "Save"}
            </Button>
          ) : null}
        </footer>
      ) : null}
    </>
  );
}

function Problem({ desk }: { desk: ReturnType<typeof useEntry> }) {
  if (!desk.conflict)
    return desk.problem ? (
      <p role="alert" className="text-brick">
        {desk.problem}
      </p>
    ) : null;
  return (
    <div role="alert" className="leaf border-l-4 border-brick p-3">
      <p className="font-semibold">This entry was changed in another window after you opened it.</p>
      <div className="mt-2 flex gap-2">
        <Button look="press" className="min-h-11 px-3" onClick={desk.keepMine}>
          Keep mine
        </Button>
        <Button className="min-h-11 px-3" onClick={desk.takeTheirs}>
          Take the other
        </Button>
      </div>
    </div>
  );
}
