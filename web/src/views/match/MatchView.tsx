import { Trouble } from "../../app/Trouble";
import { server } from "../../api/queries";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "../../api/client";
import { DamagedRow } from "../../app/DamagedRow";
import { EmptyKitchen } from "../../app/EmptyKitchen";
import { useStartBake } from "../../app/useStartBake";
import { beginWith, NEW, partPath, withPlan } from "../../supper/draft";
import { useTaken } from "../../supper/Library";
import { SupperLine } from "../../supper/SupperLine";
import type { SavedSupper } from "../../supper/types";
import { useSupper, type SupperAtHand } from "../../supper/useSupper";
import { useSupperHere } from "../../supper/useSupperPlace";
import { newDraft, type Sentence, type Draft } from "../../ui/planDraft";
import { useReference, useStyles, type StyleLine } from "../../ui/styles";
import { arrange, placeOf, step, type Placed } from "./board";
import { BoardHead, type Asked } from "./BoardHead";
import { BoardPart } from "./BoardPart";
import { ChosenCell } from "./ChosenCell";
import { HelpPanel } from "./HelpPanel";

/** What can this kitchen do well: styles down, what they stand on across, a small crust in each cell. */
export function MatchView({ owner }: { owner: string }) {
  const reference = useReference();
  const board = useQuery({
    ...server.match,
    // A large board comes a few rigs at a time.
    refetchInterval: (query) => ((query.state.data?.waiting ?? 0) > 0 ? 50 : false),
  });
  const kitchen = useQuery(server.kitchen);
  const here = useSupperHere(owner);
  const problem = reference.error ?? board.error;
  if (problem) return <Trouble message={problem.message} again={() => void board.refetch()} />;
  if (!reference.data || !board.data || !here.ready)
    return (
      <main aria-busy="true" aria-label="Trying every style on every rig" className="grid gap-3 p-6 waiting">
        <h1 className="font-display text-3xl font-bold">What can this kitchen do well?</h1>
        <p className="text-ash">Trying every style on everything you own …</p>
        <div className="h-[560px] bg-panel" />
      </main>
    );
  if (board.data.rigs.length === 0) return <EmptyKitchen rigs={board.data} kitchen={kitchen.data ?? null} />;
  return (
    <Board
      key={here.place}
      owner={owner}
      saved={here.saved}
      board={board.data}
      styles={reference.data.styles}
      ramp={reference.data.reference.ramp}
    />
  );
}

/** The draft of a plan for a cell of the board: by the cell's own controls, so that its figures stay what was chosen. */
function draftOf({ rig, cell }: Placed, styles: readonly StyleLine[], people: number): Draft {
  const { hearth_id, surface_id, pan_id } = rig;
  const line = styles.find((s) => s.key === cell.style);
  const known = line?.ownId == null ? (cell.style as NonNullable<Sentence["style"]>) : "home_oven_round";
  const draft = newDraft(known, { hearth_id, surface_id, pan_id });
  draft.sentence.own_style_id = line?.ownId ?? null;
  draft.sentence.people = people;
  return { ...draft, controls: cell.controls };
}

function useNewPlan(owner: string, styles: readonly StyleLine[], people: number) {
  const navigate = useNavigate();
  return (place: Placed) => {
    const { sentence, controls } = draftOf(place, styles, people);
    beginWith(owner, { plan: { sentence, controls } });
    void navigate(partPath(NEW, "plan"));
  };
}

/** The supper at hand baked as a cell says; its other parts stay. */
function useIntoSupper(supper: SupperAtHand, styles: readonly StyleLine[], people: number) {
  const navigate = useNavigate();
  const take = useTaken(supper);
  return (place: Placed) => {
    const { sentence, controls } = draftOf(place, styles, people);
    take(`It is baked on ${place.rig.support} now.`, (was) => withPlan(was, { sentence, controls }));
    void navigate(partPath(supper.place, "plan"));
  };
}

/** Own styles that cannot be read. */
function DamagedStyles() {
  const queries = useQueryClient();
  const styles = useStyles();
  const refresh = () => queries.invalidateQueries({ queryKey: server.styles.queryKey });
  return (styles.data?.unreadable ?? []).map((one) => (
    <div key={one.id} className="lg:col-span-2">
      <DamagedRow
        name={one.name}
        problem={one.problem}
        remove={() =>
          answer(
            client.DELETE("/api/styles/{style_id}", {
              params: { path: { style_id: one.id }, query: { version: one.version } },
            }),
          ).then(refresh)
        }
        restore={() =>
          answer(
            client.POST("/api/styles/{style_id}/restore", { params: { path: { style_id: one.id } } }),
          ).finally(() => void refresh())
        }
      />
    </div>
  ));
}

function Board({
  owner,
  saved,
  board,
  styles,
  ramp,
}: {
  owner: string;
  saved: SavedSupper | null;
  board: Schemas["BoardOut"];
  styles: readonly StyleLine[];
  ramp: string[];
}) {
  const [asked, setAsked] = useState<Asked>({ family: "", sort: "in families", people: 2, within: 0 });
  // By what it is, not by its place: a large board comes in slices, and places move.
  const [at, setAt] = useState<{ style: string; rig: string } | null>(null);
  const grid = useRef<HTMLDivElement>(null);
  const moved = useRef(false);
  useEffect(() => {
    if (moved.current) grid.current?.querySelector<HTMLElement>("[data-here=true]")?.focus();
    moved.current = false;
  }, [at]);
  const { family, sort, people, within } = asked;
  const plan = useNewPlan(owner, styles, people);
  const supper = useSupper(owner, saved);
  const into = useIntoSupper(supper, styles, people);
  const bake = useStartBake();
  const shown = styles.filter(
    (s) => family === "" || (family === "own" ? s.ownId !== null : s.family === family),
  );
  const parts = arrange(board, shown, sort, within > 0 ? { people, within } : null);
  const rows = parts.flatMap((part) => part.rows);
  const here = placeOf(rows, at);
  const chosen: Placed | null = rows[here.row]?.places[here.column] ?? null;
  const style = rows[here.row]?.style;
  const choose = (row: number, column: number) => {
    const place = rows[row]?.places[column];
    const of = rows[row]?.style;
    if (place && of) setAt({ style: of.key, rig: place.rig.key });
  };
  const walk = {
    here,
    ramp,
    plan,
    choose,
    step: (row: number, column: number, down: number, right: number) => {
      moved.current = true;
      const next = step(rows, { row, column }, down, right);
      choose(next.row, next.column);
    },
  };
  return (
    <main className="grid gap-x-6 gap-y-2 px-6 py-3 lg:grid-cols-[1fr_264px]">
      <DamagedStyles />
      {supper.headline && supper.begun ? (
        <div className="lg:col-span-2">
          <SupperLine supper={supper} />
        </div>
      ) : null}
      <header className="flex flex-wrap items-end justify-between gap-x-3 gap-y-1.5 lg:col-span-2">
        <div>
          <h1 className="text-[28px] leading-tight font-bold">What can this kitchen do well?</h1>
          {board.waiting > 0 ? (
            <p role="status" className="text-ash">
              {board.rigs.length - board.waiting} of {board.rigs.length} rigs tried …
            </p>
          ) : null}
          <p className="sr-only">
            Each cell is the crust to expect at its best pull. Arrow keys walk, Enter plans it.
          </p>
        </div>
        <BoardHead
          asked={asked}
          onAsk={(to) => {
            setAsked({ ...asked, ...to });
            if (to.people === undefined) setAt(null);
          }}
        />
      </header>
      <div className="min-w-0 overflow-x-auto">
        <div ref={grid} className="grid gap-2 md:min-w-[700px]">
          {parts.map((part) => (
            <BoardPart key={part.name} part={part} rows={rows} walk={walk} />
          ))}
        </div>
        {board.left_out > 0 ? (
          <p className="mt-2 text-ash">
            {board.left_out} more combinations are not shown; retire what you do not use in the Kitchen.
          </p>
        ) : null}
      </div>
      <aside className="grid content-start gap-4">
        {chosen && style ? (
          <ChosenCell
            chosen={chosen}
            style={style}
            people={people}
            onPlan={() => {
              plan(chosen);
            }}
            onBake={() => {
              const { sentence, controls } = draftOf(chosen, styles, people);
              bake.mutate({ sentence, controls });
            }}
            onSupper={
              supper.begun
                ? () => {
                    into(chosen);
                  }
                : null
            }
            baking={bake.isPending ? "Being planned" : (bake.error?.message ?? "")}
          />
        ) : null}
        {style ? <HelpPanel key={style.key} style={style} /> : null}
      </aside>
    </main>
  );
}
