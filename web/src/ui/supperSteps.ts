/** The steps of one pizza, all of which hang on the serving time. */
const OF_A_PIZZA = /^(shape|top|hob|launch|table)_(\d+)$/;

/** Whether a step goes with the serving time, and cannot be moved by itself. */
export function isBound(key: string): boolean {
  return key === "heat" || key === "top_on" || OF_A_PIZZA.test(key);
}

/** Which pizza a step is of; 0: of none. */
export function pizzaOf(key: string): number {
  return Number(OF_A_PIZZA.exec(key)?.[2] ?? 0);
}
