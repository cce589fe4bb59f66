/** The views in the order of the rail; the digits are their keys. */
export const VIEWS = [
  { path: "/kitchen", name: "Kitchen" },
  { path: "/match", name: "Match" },
  { path: "/plan", name: "Plan" },
  { path: "/dough", name: "Dough" },
  { path: "/timeline", name: "Timeline" },
  { path: "/bake", name: "Bake" },
  { path: "/logbook", name: "Logbook" },
] as const;
