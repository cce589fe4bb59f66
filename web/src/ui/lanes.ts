/** Something at a place with a label beside it, so wide. */
interface Marked {
  at: number;
  wide: number;
}

/**
 * Labels of marks in lanes without one covering another, as many lanes as that takes. A label stands right
 * of its mark where there is room and no wall, else left of it; the lanes are so chosen that no mark's line,
 * which runs down to its own lane, crosses another's label.
 */
export function inLanes<T extends Marked>(
  marks: readonly T[],
  end: number,
  walls: readonly number[] = [],
): { mark: T; lane: number; left: number }[] {
  const inOrder = [...marks].sort((a, b) => a.at - b.at);
  const covers = (left: number, wide: number, x: number) => x > left && x < left + wide;
  // On the left stands what has no room, and what would lie under the line of one that stands there.
  const onLeft = new Set(
    inOrder.filter((m) => m.at + m.wide > end || walls.some((wall) => covers(m.at, m.wide, wall))),
  );
  for (let before = -1; before !== onLeft.size;) {
    before = onLeft.size;
    for (const m of inOrder) if ([...onLeft].some((o) => covers(m.at, m.wide, o.at))) onLeft.add(m);
  }
  const placed: { mark: T; lane: number; left: number }[] = [];
  const put = (mark: T, left: number) => {
    // Under every mark it passes, in the first lane that is free there.
    let lane =
      Math.max(-1, ...placed.filter((p) => covers(left, mark.wide, p.mark.at)).map((p) => p.lane)) + 1;
    const taken = (l: number) =>
      placed.some((p) => p.lane === l && p.left < left + mark.wide && left < p.left + p.mark.wide);
    while (taken(lane)) lane += 1;
    placed.push({ mark, lane, left });
  };
  for (const m of inOrder.filter((one) => !onLeft.has(one)).reverse()) put(m, m.at);
  for (const m of inOrder.filter((one) => onLeft.has(one))) put(m, m.at - m.wide);
  return placed;
}
