import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { writeDraft } from "../../ui/drafts";
import { useReference } from "../../ui/styles";
import { bakeTime } from "../../ui/time";
import { useUnits } from "../../ui/units";
import { EmptyKitchen } from "../../app/EmptyKitchen";
import { draftKey, newDraft, type Sentence } from "../../ui/planDraft";
import { arrange, servedMin, SORTS, step, type Placed, type Sort } from "./board";
import { HelpPanel } from "./HelpPanel";
import { MiniSlice } from "./MiniSlice";
import { StylePanel } from "./StylePanel";

const FAMILIES: readonly (readonly [string, string])[] = [
  ["", "all"],
  ["round", "rounds"],
  ["thin", "thin"],
  ["tray", "trays"],
  ["pan", "pans"],
  ["flame", "flames"],
  ["grill", "grills"],
  ["own", "my own"],
];
const WITHIN: readonly number[] = [0, 30, 45, 60, 90, 120];

/** When as many as asked have eaten, from heat on. */
function servedSaid({ cell }: Placed, people: number): string {
  const pieces = Math.max(1, Math.ceil(people / Math.max(0.3, cell.feeds)));
  const minutes = servedMin(cell, people);
  return `${String(pieces)} for ${String(people)}: first after ${String(Math.round(cell.first_min))} min, all in ${String(Math.round(minutes))} min from heat on`;
}

/** What can this kitchen do well: styles down, what they stand on across, a small crust in each cell. */
export function MatchView({ owner }: { owner: string }) {
  const units = useUnits();
  const navigate = useNavigate();
  const reference = useReference();
  const board = useQuery({
    queryKey: ["match"],
    queryFn: () => answer(client.GET("/api/match")),
    // A large board comes a few rigs at a time.
    refetchInterval: (query) => ((query.state.data?.waiting ?? 0) > 0 ? 50 : false),
  });
  const kitchen = useQuery({ queryKey: ["kitchen"], queryFn: () => answer(client.GET("/api/kitchen")) });
  const [family, setFamily] = useState("");
  const [sort, setSort] = useState<Sort>("in families");
  const [people, setPeople] = useState(2);
  const [within, setWithin] = useState(0);
  const [at, setAt] = useState<{ row: number; column: number } | null>(null);
  const grid = useRef<HTMLDivElement>(null);
  const moved = useRef(false);
  useEffect(() => {
    if (moved.current) grid.current?.querySelector<HTMLElement>("[data-here=true]")?.focus();
    moved.current = false;
  }, [at]);

  const problem = reference.error ?? board.error;
  if (problem)
    return (
      <main className="grid gap-3 p-8">
        <p role="alert">{problem.message}</p>
        <button type="button" className="press w-fit" onClick={() => void board.refetch()}>
          Try again
        </button>
      </main>
    );
  if (!reference.data || !board.data)
    return (
      <main aria-busy="true" aria-label="Trying every style on every rig" className="grid gap-3 p-6 waiting">
        <h1 className="font-display text-3xl font-bold">What can this kitchen do well?</h1>
        <p className="text-ash">Trying every style on everything you own …</p>
        <div className="h-[560px] bg-panel" />
      </main>
    );
  if (board.data.rigs.length === 0) return <EmptyKitchen rigs={board.data} kitchen={kitchen.data ?? null} />;
  const { ramp } = reference.data.reference;
  const styles = reference.data.styles.filter(
    (s) => family === "" || (family === "own" ? s.ownId !== null : s.family === family),
  );
  const parts = arrange(board.data, styles, sort, within > 0 ? { people, within } : null);
  const rows = parts.flatMap((part) => part.rows);
  const first = rows.findIndex((r) => r.best !== null);
  const here =
    at && rows[at.row]?.places[at.column]
      ? at
      : { row: first, column: rows[first]?.places.findIndex((p) => p === rows[first]?.best) ?? 0 };
  const chosen: Placed | null = rows[here.row]?.places[here.column] ?? null;
  const style = rows[here.row]?.style;
  const plan = (place: Placed) => {
    const { hearth_id, surface_id, pan_id } = place.rig;
    const line = reference.data?.styles.find((s) => s.key === place.cell.style);
    const draft = newDraft(
      line?.ownId == null ? (place.cell.style as NonNullable<Sentence["style"]>) : "home_oven_round",
      { hearth_id, surface_id, pan_id },
    );
    draft.sentence.own_style_id = line?.ownId ?? null;
    draft.sentence.people = people;
    writeDraft(draftKey(owner, null), { version: null, value: draft });
    void navigate("/plan");
  };
  return (
    <main className="grid gap-x-6 gap-y-2 px-6 py-3 lg:grid-cols-[1fr_264px]">
      <header className="flex flex-wrap items-end justify-between gap-x-3 gap-y-1.5 lg:col-span-2">
        <div>
          <h1 className="text-[28px] leading-tight font-bold">What can this kitchen do well?</h1>
          {board.data.waiting > 0 ? (
            <p role="status" className="text-ash">
              {board.data.rigs.length - board.data.waiting} of {board.data.rigs.length} rigs tried …
            </p>
          ) : null}
          <p className="sr-only">
            Each cell is the crust to expect at its best pull. Arrow keys walk, Enter plans it.
          </p>
        </div>
        <div className="flex flex-wrap items-center gap-4">
          <div role="group" aria-label="Styles shown" className="flex">
            {FAMILIES.map(([key, name]) => (
              <button
                key={key}
                type="button"
                className="quiet"
                aria-pressed={family === key}
                style={family === key ? { background: "var(--soot)", color: "var(--ground)" } : {}}
                onClick={() => {
                  setFamily(key);
                  setAt(null);
                }}
              >
                {name}
              </button>
            ))}
          </div>
          <label className="flex items-center gap-1.5 text-ash">
            for
            <select
              aria-label="people"
              className="field px-1 py-1"
              value={people}
              onChange={(e) => {
                setPeople(Number(e.target.value));
              }}
            >
              {Array.from({ length: 12 }, (_, i) => (
                <option key={i}>{i + 1}</option>
              ))}
            </select>
            eaten
            <select
              aria-label="eaten within"
              className="field px-1 py-1"
              value={within}
              onChange={(e) => {
                setWithin(Number(e.target.value));
                setAt(null);
              }}
            >
              {WITHIN.map((m) => (
                <option key={m} value={m}>
                  {m === 0 ? "any time" : `within ${String(m)} min`}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center gap-2 text-ash">
            order
            <select
              className="field px-2 py-1"
              value={sort}
              onChange={(e) => {
                setSort(e.target.value as Sort);
                setAt(null);
              }}
            >
              {SORTS.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </select>
          </label>
        </div>
      </header>
      <div className="min-w-0 overflow-x-auto">
        <div ref={grid} className="grid min-w-[700px] gap-2">
          {parts.map((part) => (
            <div
              key={part.name}
              role="grid"
              aria-label={part.name}
              className="grid justify-start"
              style={{
                gridTemplateColumns: `142px repeat(${String(part.columns.length)}, minmax(96px, 118px))`,
              }}
            >
              <div role="row" className="contents">
                <span role="columnheader" className="self-end pr-2 pb-1 text-[12px] leading-tight text-ash">
                  {part.name.toLowerCase()}
                </span>
                {part.columns.map((c) => (
                  <span key={c.key} role="columnheader" className="self-end px-1.5 pb-1 leading-tight">
                    <span className="block font-semibold">{c.thing}</span>
                    <span className="block text-[12px] text-ash">{c.hearth}</span>
                  </span>
                ))}
              </div>
              {part.rows.map((row) => {
                const r = rows.indexOf(row);
                return (
                  <div role="row" key={row.style.key} className="contents">
                    <span role="rowheader" className="border-t border-line py-0.5 pr-2 leading-[1.15]">
                      <span className="block text-[15px] font-semibold">{row.style.name}</span>
                      <span className="block text-[12px] text-ash">
                        {row.style.shape === "pan"
                          ? `${units.mass(row.style.mass_g)} of dough`
                          : units.size(row.style.diameter_cm)}
                      </span>
                    </span>
                    {row.places.map((place, c) => {
                      const isHere = here.row === r && here.column === c;
                      if (!place)
                        return (
                          <span
                            key={part.columns[c]?.key}
                            role="gridcell"
                            className="grid place-items-center border-t border-line"
                          >
                            <span className="sr-only">does not go together</span>
                            <span aria-hidden className="size-1 bg-line" />
                          </span>
                        );
                      const { cell } = place;
                      const good = cell.word === "made for it";
                      return (
                        <span key={part.columns[c]?.key} role="gridcell" className="border-t border-line">
                          <button
                            type="button"
                            tabIndex={isHere ? 0 : -1}
                            data-here={isHere}
                            data-cell={`${cell.style} ${part.columns[c]?.thing ?? ""}`}
                            aria-label={`${bakeTime(cell.likely_done_s)} ${cell.word}, ${row.style.name} on ${place.rig.support}. ${units.say(cell.reason)}`}
                            aria-pressed={isHere}
                            className={`block w-full px-1.5 pt-1 pb-1 text-left ${isHere ? "bg-panel shadow-[inset_0_0_0_2.5px_var(--brick)]" : "hover:bg-panel"}`}
                            onClick={() => {
                              setAt({ row: r, column: c });
                            }}
                            onDoubleClick={() => {
                              plan(place);
                            }}
                            onKeyDown={(e) => {
                              const by = {
                                ArrowUp: [-1, 0],
                                ArrowDown: [1, 0],
                                ArrowLeft: [0, -1],
                                ArrowRight: [0, 1],
                              }[e.key] as [number, number] | undefined;
                              if (by) {
                                e.preventDefault();
                                moved.current = true;
                                setAt(step(rows, { row: r, column: c }, by[0], by[1]));
                              } else if (e.key === "Enter") {
                                e.preventDefault();
                                plan(place);
                              }
                            }}
                          >
                            <span className="flex items-end justify-between gap-0.5">
                              <MiniSlice
                                ramp={ramp}
                                bottomL={cell.bottom_l}
                                rimL={cell.rim_l}
                                cheeseL={cell.cheese_l}
                                dryMm={cell.dry_mm}
                                thick={Math.min(
                                  18,
                                  (row.style.mass_g / (Math.PI * row.style.diameter_cm ** 2)) * 4 * 22,
                                )}
                                walled={row.style.shape === "pan"}
                                faded={cell.word === "a stretch" || cell.word === "not here"}
                              />
                              <span className="text-[13px] leading-tight whitespace-nowrap">
                                {bakeTime(cell.likely_done_s)}
                              </span>
                            </span>{" "}
                            <span className={`block leading-tight ${good ? "font-bold" : "text-ash"}`}>
                              {cell.word}
                            </span>
                          </button>
                        </span>
                      );
                    })}
                  </div>
                );
              })}
            </div>
          ))}
        </div>
        {board.data.left_out > 0 ? (
          <p className="mt-2 text-ash">
            {board.data.left_out} more combinations are not shown; retire what you do not use in the Kitchen.
          </p>
        ) : null}
      </div>
      <aside className="grid content-start gap-4">
        {chosen && style ? (
          <section aria-label="The chosen cell" className="grid gap-2 bg-panel p-4">
            <h2 className="text-[18px] leading-tight font-bold">
              {style.name}, {chosen.rig.support}
              <span className="block font-sans text-[13px] font-normal text-ash">{chosen.rig.hearth}</span>
            </h2>
            <p className="text-[16px] font-semibold">
              {chosen.cell.word} · {bakeTime(chosen.cell.likely_done_s)}
            </p>
            <p className="text-ash">
              {chosen.cell.method},{" "}
              {chosen.cell.controls.dome_over_k == null
                ? `level ${String(chosen.cell.controls.level)}, dial `
                : "launch at "}
              {units.temp(chosen.cell.controls.setpoint_c)}
            </p>
            <p>
              base {chosen.cell.bottom_word}, rim {chosen.cell.rim_word},{" "}
              <span className="whitespace-nowrap">{chosen.cell.loss_pct.toFixed(0)} % lost</span>
            </p>
            {chosen.cell.reason ? (
              <p>
                <span className="block text-ash">What holds it back</span>
                {units.say(chosen.cell.reason)}
              </p>
            ) : (
              <p className="text-ash">Nothing holds it back.</p>
            )}
            <button
              type="button"
              className="press mt-1 justify-self-start text-[15px]"
              onClick={() => {
                plan(chosen);
              }}
            >
              Plan this
            </button>
            <p className="text-[13px] text-ash">{servedSaid(chosen, people)}</p>
            <StylePanel key={style.key} style={style} />
          </section>
        ) : null}
        {style ? <HelpPanel key={style.key} style={style} /> : null}
      </aside>
    </main>
  );
}
