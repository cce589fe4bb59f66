import type { Kitchen } from "./types";

/** Which of the kitchen's containers holds so many litres: the smallest that does, or that none does; nothing where it has none. */
export function containerSaid(litres: number, tools: Kitchen["tools"]): string {
  const owned = tools.filter((t) => t.kind === "container" && t.volume_l != null);
  if (!owned.length) return "";
  const fits = owned
    .filter((t) => (t.volume_l ?? 0) >= litres)
    .sort((a, b) => (a.volume_l ?? 0) - (b.volume_l ?? 0));
  return fits[0] ? `: the ${fits[0].name} does` : ": none of yours is so large, so part it between two";
}
