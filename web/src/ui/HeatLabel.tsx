import { useUnits } from "./units";

/** What lies in the heat and how hot it is: read over any drawing. */
export function HeatLabel({ x, y, what, tempC }: { x: number; y: number; what: string; tempC: number }) {
  const units = useUnits();
  return (
    <text
      x={x}
      y={y}
      fontSize="15"
      fontWeight="750"
      textAnchor="middle"
      fill="var(--soot)"
      stroke="var(--cavity)"
      strokeWidth="4"
      paintOrder="stroke"
    >
      {what} {units.temp(tempC)}
    </text>
  );
}
