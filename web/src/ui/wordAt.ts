/** The word that holds at a moment, of words that each hold from theirs on. */
export function wordAt(
  words: readonly { from_s: number; word: string }[] | undefined,
  at: number,
): string | undefined {
  return words?.findLast((w) => w.from_s <= at + 1e-6)?.word;
}
