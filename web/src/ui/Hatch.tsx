/** A hatching at 45 degrees: what tells dark from lighter without its colour. */
export function Hatch({
  id,
  every,
  line,
  thick,
  strong,
}: {
  id: string;
  every: number;
  line: string;
  thick: number;
  strong: number;
}) {
  return (
    <pattern id={id} width={every} height={every} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1="0" y1="0" x2="0" y2={every} stroke={line} strokeWidth={thick} opacity={strong} />
    </pattern>
  );
}
