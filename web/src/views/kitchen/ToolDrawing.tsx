/** What dough is made in and slid on, drawn plainly; not to scale. */
export function ToolDrawing({ kind }: { kind: string }) {
  return (
    <svg width="62" height="46" aria-hidden>
      {kind === "container" ? (
        <>
          <path d="M7 12 H55 L49 42 Q48 45 44 45 H18 Q14 45 13 42 Z" fill="var(--stone)" />
          <path d="M11 27 Q22 20 31 23 T51 25 L48 41 Q47 43 43 43 H19 Q16 43 15 41 Z" fill="var(--dough)" />
          <rect x="4" y="8" width="54" height="5" rx="2" fill="var(--metal)" />
        </>
      ) : kind === "mixer" ? (
        <>
          <path d="M14 4 H50 Q56 4 56 10 V15 H26 L24 20 H12 Q8 4 14 4 Z" fill="var(--metal)" />
          <path d="M46 15 H56 V40 H46 Z M10 40 H58 V45 H10 Z" fill="var(--metal)" />
          <path d="M12 24 H38 L34 39 H16 Z" fill="var(--stone)" />
          <path d="M24 18 V30 q5 2 3 5" fill="none" stroke="var(--soot)" strokeWidth="2.4" />
        </>
      ) : kind === "processor" ? (
        <>
          <path d="M16 8 H46 L42 28 H20 Z" fill="var(--stone)" />
          <rect x="24" y="3" width="14" height="6" fill="var(--metal)" />
          <path d="M12 29 H50 V44 H12 Z" fill="var(--metal)" />
          <path d="M22 24 L40 22 M22 22 L40 24" stroke="var(--soot)" strokeWidth="2" />
        </>
      ) : (
        <>
          <path d="M6 16 H48 L58 42 H16 Z" fill="var(--cavity)" stroke="var(--metal)" strokeWidth="1.4" />
          <circle cx="12" cy="14" r="8" fill="var(--cavity)" stroke="var(--metal)" strokeWidth="1.4" />
          <circle cx="12" cy="14" r="3" fill="none" stroke="var(--metal)" strokeWidth="1.4" />
        </>
      )}
    </svg>
  );
}
