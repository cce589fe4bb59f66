/** An oven cut open, the product's own picture. */
export function Oven() {
  const levels = [0, 1, 2, 3, 4];
  return (
    <svg
      viewBox="0 0 520 460"
      className="w-[72%] max-w-xl"
      role="img"
      aria-label="An oven seen from the side: a round on a steel, on the fourth level, under a glowing element."
    >
      <rect x="20" y="20" width="480" height="420" fill="var(--metal)" />
      <rect x="48" y="48" width="424" height="364" fill="var(--cavity)" />
      {levels.map((l) => (
        <line
          key={l}
          x1="48"
          x2="472"
          y1={370 - l * 62}
          y2={370 - l * 62}
          stroke="var(--line)"
          strokeDasharray="2 5"
        />
      ))}
      {Array.from({ length: 9 }, (_, i) => (
        <circle key={i} cx={90 + i * 42.5} cy="72" r="9" fill="var(--brick)" />
      ))}
      {Array.from({ length: 9 }, (_, i) => (
        <circle key={i} cx={90 + i * 42.5} cy="398" r="7" fill="var(--stone)" />
      ))}
      <rect x="48" y="184" width="424" height="3" fill="var(--metal)" />
      <rect x="104" y="168" width="312" height="16" fill="var(--soot)" />
      <path
        d="M122 168 C114 138 138 128 158 136 C174 143 186 152 200 153 L320 153 C334 152 346 143 362 136 C382 128 406 138 398 168 Z"
        fill="#d9a75f"
      />
      <path d="M190 155 C230 147 290 147 330 155 L326 160 L194 160 Z" fill="#b5402c" />
      <path d="M198 153 C235 145 285 145 322 153 L318 156 L202 156 Z" fill="#f0dfb0" />
    </svg>
  );
}
