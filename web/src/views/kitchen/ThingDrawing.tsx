import { HearthDrawing } from "./HearthDrawing";
import { InstrumentDrawing } from "./InstrumentDrawing";
import { ToolDrawing } from "./ToolDrawing";
import { SupportDrawing } from "./SupportDrawing";
import type { HearthIn, Noun, SupportIn, Values } from "./things";

/** A thing of the kitchen: hearths, surfaces and pans to one scale. */
export function ThingDrawing({ noun, values }: { noun: Noun; values: Values }) {
  if (noun === "hearths") return <HearthDrawing hearth={values as HearthIn} />;
  if (noun === "tools") return <ToolDrawing kind={values.kind ?? ""} />;
  if (noun === "instruments") return <InstrumentDrawing kind={values.kind ?? ""} />;
  return <SupportDrawing noun={noun} support={values as SupportIn} />;
}
