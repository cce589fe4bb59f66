/** Something at a place with a label beside it, so wide. */
interface Marked {
  at: number;
  wide: number;
}

interface Lain<T> {
  mark: T;
  lane: number;
  left: number;
}

/** Of so many marks every choice of sides is tried; of more, only the near ones. */
const ALL_TRIED = 7;

/**
 * Labels of marks in lanes without one covering another, in as few lanes as that takes. A label stands right
 * or left of its mark, between begin and end and across no wall where that can be; the lanes are so chosen
 * that no mark's line, which runs down to its own lane, crosses another's label.
 */
export function inLanes<T extends Marked>(
  marks: readonly T[],
  end: number,
  walls: readonly number[] = [],
  begin = -Infinity,
): Lain<T>[] {
  const inOrder = [...marks].sort((a, b) => a.at - b.at);
  const badly = (left: number, m: T) =>
    left < begin || left + m.wide > end ? OUT : walls.some((wall) => covers(left, m.wide, wall)) ? HIT : 0;
  if (inOrder.length <= ALL_TRIED) {
    let best: { cost: number; placed: Lain<T>[] } = { cost: Infinity, placed: [] };
    for (let sides = 0; sides < 2 ** inOrder.length; sides++) {
      const onLeft = new Set(inOrder.filter((_, i) => sides & (1 << i)));
      const bad = inOrder.reduce((sum, m) => sum + badly(onLeft.has(m) ? m.at - m.wide : m.at, m), 0);
      if (bad >= best.cost) continue;
      const { placed, stuck } = placing(inOrder, onLeft);
      const lanes = Math.max(0, ...placed.map((one) => one.lane));
      const cost = bad + HIT * stuck.length + LANE * lanes + onLeft.size;
      if (cost < best.cost) best = { cost, placed };
    }
    return best.placed;
  }
  const onLeft = new Set(inOrder.filter((m) => badly(m.at, m) > 0));
  for (;;) {
    const { placed, stuck } = placing(inOrder, onLeft);
    // Labels that lie over each other's lines in a ring: one of them goes to the other side.
    const turned = stuck.findLast((m) => !onLeft.has(m));
    if (!turned) return placed;
    onLeft.add(turned);
  }
}

/** How bad it is to stand out, to lie on a wall or a line, to take a lane more; a label on the left is 1. */
const OUT = 100_000;
const HIT = 1000;
const LANE = 10;

const covers = (left: number, wide: number, x: number) => x > left && x < left + wide;

/** Every label under all marks it passes, in the first lane that is free there; stuck: a ring found on the way. */
function placing<T extends Marked>(inOrder: readonly T[], onLeft: ReadonlySet<T>) {
  const leftOf = (m: T) => (onLeft.has(m) ? m.at - m.wide : m.at);
  const placed: Lain<T>[] = [];
  let rest = [...inOrder];
  let stuck: T[] = [];
  while (rest.length) {
    const passes = (m: T) => rest.some((other) => other !== m && covers(leftOf(m), m.wide, other.at));
    const free = rest.findLast((m) => !onLeft.has(m) && !passes(m)) ?? rest.find((m) => !passes(m));
    if (!free && !stuck.length) stuck = rest;
    const mark = free ?? rest[0];
    if (!mark) break;
    const left = leftOf(mark);
    const passed = placed.filter((p) => covers(left, mark.wide, p.mark.at)).map((p) => p.lane);
    let lane = Math.max(-1, ...passed) + 1;
    const taken = (l: number) =>
      placed.some((p) => p.lane === l && p.left < left + mark.wide && left < p.left + p.mark.wide);
    while (taken(lane)) lane += 1;
    placed.push({ mark, lane, left });
    rest = rest.filter((m) => m !== mark);
  }
  return { placed, stuck };
}
