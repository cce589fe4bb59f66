/** One word of a few, by tap; tapped again it is taken back where nothing may be chosen, too. */
export function Taps<Word extends string>({
  label,
  words,
  value,
  pick,
}: {
  label: string;
  words: readonly Word[];
  value: Word | null;
  pick: (word: Word | null) => void;
}) {
  return (
    <div role="group" aria-label={label}>
      <p>{label}</p>
      <div className="flex">
        {words.map((word) => (
          <button
            key={word}
            type="button"
            aria-pressed={word === value}
            className={`min-h-11 flex-1 border border-line ${word === value ? "bg-soot font-bold text-ground" : "bg-panel"}`}
            onClick={() => {
              pick(word === value ? null : word);
            }}
          >
            {word}
          </button>
        ))}
      </div>
    </div>
  );
}
