/** What a base is shaped like at its edge: puffed, thin to the end, on a tray's lip, or against a pan's wall. */
export type CrustForm = "round" | "thin" | "tray" | "pan";

export function crustForm(style: { family: string; shape: string }): CrustForm {
  if (style.shape === "pan") return "pan";
  return style.family === "thin" ? "thin" : style.family === "tray" ? "tray" : "round";
}

/** The outline of a cross-section from the middle to the edge, and what lies along it, as paths. */
export interface SliceShape {
  outline: string;
  /** Where the rim browns; of a pan the top of its edge. */
  rim: string;
  /** The highest point of the crust. */
  top: number;
  /** How far sauce and cheese go. */
  toppedTo: number;
  /** Against the wall: what browns there; none where there is no wall. */
  edge: string;
  /** Tray or pan under and beside it; none on a bare deck. */
  support: string;
}

const n = (v: number) => v.toFixed(1);
const LEFT = 8;

/** The slice drawn so: ground and flat in px (y down), rise 0 to 1; wall: how high a pan's wall is drawn, px. */
export function sliceShape(
  form: CrustForm,
  ground: number,
  flat: number,
  rise: number,
  wall: number,
): SliceShape {
  const y = ground - flat;
  if (form === "pan") {
    const to = 281;
    return {
      outline: `M${String(LEFT)} ${n(y)} L${String(to)} ${n(y)} L${String(to)} ${n(ground)} L${String(LEFT)} ${n(ground)} Z`,
      rim: `M271 ${n(y)} L${String(to)} ${n(y)}`,
      top: y,
      toppedTo: to,
      edge: `M${String(to - 2)} ${n(y - 13)} L${String(to - 2)} ${n(ground)}`,
      support: `M${String(LEFT - 4)} ${n(ground + 3)} L${String(to + 5)} ${n(ground + 3)} L${String(to + 5 + wall * 0.06)} ${n(ground - wall)}`,
    };
  }
  if (form === "thin") {
    const lip = y - 2 - 2 * rise;
    return {
      outline: `M${String(LEFT)} ${n(y)} L272 ${n(y)} C278 ${n(lip)} 287 ${n(lip)} 288 ${n(ground)} L${String(LEFT)} ${n(ground)} Z`,
      rim: `M268 ${n(y)} L272 ${n(y)} C278 ${n(lip)} 287 ${n(lip)} 288 ${n(ground)}`,
      top: lip,
      toppedTo: 266,
      edge: "",
      support: "",
    };
  }
  const top = form === "tray" ? ground - flat - 6 - 12 * rise : ground - flat - 14 - 34 * rise;
  const arc = `C222 ${n(y - 2)} 222 ${n(top)} 252 ${n(top)} C286 ${n(top)} 292 ${n(ground - 12)} 282 ${n(ground)}`;
  return {
    outline: `M${String(LEFT)} ${n(y)} L212 ${n(y)} ${arc} L${String(LEFT)} ${n(ground)} Z`,
    rim: `M212 ${n(y)} ${arc}`,
    top,
    toppedTo: 206,
    edge: "",
    support:
      form === "tray"
        ? `M${String(LEFT - 4)} ${n(ground + 3)} L289 ${n(ground + 3)} L294 ${n(ground - 9)}`
        : "",
  };
}

/** How thick a style's crumb is drawn as small as a word, px. */
export function miniThick(style: { mass_g: number; diameter_cm: number }): number {
  return Math.min(18, (style.mass_g / (Math.PI * style.diameter_cm ** 2)) * 4 * 22);
}
