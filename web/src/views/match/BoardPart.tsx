import { useUnits } from "../../ui/units";
import type { Part, Placed, Row } from "./board";
import { CellButton } from "./CellButton";

export interface Walk {
  here: { row: number; column: number };
  ramp: string[];
  choose: (row: number, column: number) => void;
  step: (row: number, column: number, down: number, right: number) => void;
  plan: (place: Placed) => void;
}

/** One part of the board: rigs across, styles down; where there is no room for that, style by style. */
export function BoardPart({ part, rows, walk }: { part: Part; rows: readonly Row[]; walk: Walk }) {
  return (
    <div
      role="grid"
      aria-label={part.name}
      className="grid justify-start max-md:block"
      style={{
        gridTemplateColumns: `142px repeat(${String(part.columns.length)}, minmax(96px, 118px))`,
      }}
    >
      <div role="row" className="contents max-md:block max-md:sr-only">
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
      {part.rows.map((row) => (
        <BoardRow key={row.style.key} part={part} row={row} at={rows.indexOf(row)} walk={walk} />
      ))}
    </div>
  );
}

function BoardRow({ part, row, at, walk }: { part: Part; row: Row; at: number; walk: Walk }) {
  const units = useUnits();
  const { style } = row;
  return (
    <div
      role="row"
      className="contents max-md:grid max-md:grid-cols-3 max-md:border-t max-md:border-line max-md:py-1.5"
    >
      <span
        role="rowheader"
        className="border-t border-line py-0.5 pr-2 leading-[1.15] max-md:col-span-full max-md:flex max-md:items-baseline max-md:gap-2 max-md:border-0"
      >
        <span className="block text-[15px] max-md:text-[17px] font-semibold">{style.name}</span>
        <span className="block text-[12px] text-ash">
          {style.shape === "pan" ? "fills its pan" : units.size(style.diameter_cm)}
        </span>
      </span>
      {row.places.map((place, c) => {
        const column = part.columns[c];
        if (!place)
          return (
            <span
              key={column?.key}
              role="gridcell"
              title={row.whys[c]}
              className="grid place-items-center border-t border-line max-md:sr-only"
            >
              <span className="sr-only">does not go together: {row.whys[c]}</span>
              <span aria-hidden className="size-1 bg-line" />
            </span>
          );
        return (
          <span key={column?.key} role="gridcell" className="border-t border-line max-md:border-0">
            <span aria-hidden className="block truncate px-1.5 pt-1 text-[13px] text-ash md:hidden">
              {column?.thing}
              {part.columns.filter((o) => o.thing === column?.thing).length > 1 ? (
                <span className="block truncate text-[12px]">{column?.hearth}</span>
              ) : null}
            </span>
            <CellButton
              place={place}
              style={style}
              thing={column?.thing ?? ""}
              here={walk.here.row === at && walk.here.column === c}
              ramp={walk.ramp}
              onChoose={() => {
                walk.choose(at, c);
              }}
              onStep={(down, right) => {
                walk.step(at, c, down, right);
              }}
              onPlan={() => {
                walk.plan(place);
              }}
            />
          </span>
        );
      })}
    </div>
  );
}
