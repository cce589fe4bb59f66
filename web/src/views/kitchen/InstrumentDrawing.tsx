/** What is measured with, drawn plainly; larger than to scale, or it would not be seen. */
export function InstrumentDrawing({ kind }: { kind: string }) {
  if (kind === "infrared")
    return (
      <svg width="62" height="46" aria-hidden>
        <path d="M4 6 H40 L46 12 V20 H30 L24 44 H12 L16 20 H4 Z" fill="var(--metal)" />
        <rect x="9" y="9" width="15" height="8" fill="var(--cavity)" />
        <path d="M48 14 L62 8 M48 16 H62 M48 18 L62 24" stroke="var(--brick)" strokeWidth="1.5" />
      </svg>
    );
  if (kind === "oven_probe")
    return (
      <svg width="62" height="46" aria-hidden>
        <path d="M10 44 V24 Q10 10 24 10 H58" fill="none" stroke="var(--metal)" strokeWidth="2.5" />
        <rect x="40" y="7" width="20" height="6" fill="var(--soot)" />
        <rect x="3" y="32" width="14" height="12" fill="var(--metal)" />
      </svg>
    );
  if (kind === "instant_probe")
    return (
      <svg width="62" height="46" aria-hidden>
        <rect x="4" y="4" width="26" height="16" rx="3" fill="var(--metal)" />
        <rect x="8" y="8" width="14" height="8" fill="var(--cavity)" />
        <path d="M28 18 L60 44" stroke="var(--soot)" strokeWidth="2.5" />
      </svg>
    );
  if (kind === "scale")
    return (
      <svg width="62" height="46" aria-hidden>
        <path d="M8 14 H54 L50 20 H12 Z" fill="var(--stone)" />
        <path d="M12 22 H50 L58 42 H4 Z" fill="var(--metal)" />
        <rect x="20" y="29" width="22" height="8" fill="var(--cavity)" />
      </svg>
    );
  return (
    <svg width="62" height="46" aria-hidden>
      <rect x="6" y="16" width="26" height="26" rx="3" fill="var(--metal)" />
      <rect x="11" y="21" width="16" height="9" fill="var(--cavity)" />
      <path d="M19 42 q0 3 8 3 h30" fill="none" stroke="var(--soot)" strokeWidth="2" />
      {[8, 14, 20].map((r) => (
        <path
          key={r}
          d={`M${String(34 + r * 0.7)} ${String(16 - r * 0.7)} a${String(r)} ${String(r)} 0 0 1 ${String(r * 0.3)} ${String(r)}`}
          fill="none"
          stroke="var(--air)"
          strokeWidth="1.8"
        />
      ))}
    </svg>
  );
}
