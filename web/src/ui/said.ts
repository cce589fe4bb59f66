import { keptSystems, unitsOf } from "./units";

/** A sentence of the server in this browser's units, where no view is at hand to ask. */
export function sayHere(text: string): string {
  return unitsOf(keptSystems(), () => undefined).say(text);
}
