import { Button } from "../../ui/Button";
import { FoldDown } from "../../ui/FoldDown";
import type { StyleLine } from "../../ui/styles";
import { useUnits } from "../../ui/units";
import { BowlAndScale } from "./BowlAndScale";
import { eachG } from "./lines";
import { ballOf, PieceRow } from "./PieceRow";
import type { Batch, DoughInput, Kitchen, Piece } from "./types";

/** "8 balls of 252 g", or a pan's filling; opens to be set. */
export function pieceSaid(piece: Piece, mass: (g: number) => string): string {
  const each = eachG(piece);
  const count = piece.count ?? 1;
  if (piece.area_cm2 != null && piece.mass_g == null)
    return `${count > 1 ? `${String(count)} × ` : ""}${piece.name || "a pan"}, ${mass(each)}`;
  return `${String(count)} ${count > 1 ? "balls" : "ball"} of ${mass(each)}`;
}

/** What the dough is made into: balls by mass, pans of the kitchen by how much lies on them. */
export function PiecesPanel({
  dough,
  style,
  kitchen,
  ways,
  onDough,
}: {
  dough: DoughInput;
  style: StyleLine | undefined;
  kitchen: Kitchen;
  ways: Batch["offered_ways"];
  onDough: (dough: DoughInput) => void;
}) {
  const units = useUnits();
  const pieces = dough.formula.pieces;
  const set = (next: Piece[]) => {
    onDough({ ...dough, formula: { ...dough.formula, pieces: next } });
  };
  const change = (i: number, to: Partial<Piece>) => {
    set(pieces.map((p, j) => (j === i ? { ...p, ...to } : p)));
  };
  return (
    <FoldDown
      part="pieces"
      label="Pieces"
      said={`pieces: ${pieces.map((p) => pieceSaid(p, units.mass)).join(" and ")}`}
      shown={pieces.map((p) => pieceSaid(p, units.mass)).join(" and ")}
      className="grid w-[26rem] gap-3 p-4"
    >
      {pieces.map((piece, i) => (
        <PieceRow
          key={i}
          piece={piece}
          at={i}
          style={style}
          kitchen={kitchen}
          ways={ways}
          onChange={(to) => {
            change(i, to);
          }}
          onLeaveOut={
            pieces.length > 1
              ? () => {
                  set(pieces.filter((_, j) => j !== i));
                }
              : null
          }
        />
      ))}
      <Button
        look="link"
        className="justify-self-start text-air"
        disabled={pieces.length >= 8}
        onClick={() => {
          set([...pieces, { count: 1, way: [], ...ballOf(style) }]);
        }}
      >
        another size from the same dough
      </Button>
      <BowlAndScale dough={dough} tools={kitchen.tools} onDough={onDough} />
    </FoldDown>
  );
}
