import { unitsOf } from "./units";

/** A sentence of the server in this browser's units, where no view is at hand to ask. */
export function sayHere(text: string): string {
  const us = typeof localStorage !== "undefined" && localStorage.getItem("units") === "us";
  return unitsOf(us ? "us" : "metric", () => undefined).say(text);
}
