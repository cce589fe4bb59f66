/** A view within a supper's address: which supper, and which view. */
const IN_SUPPER = /^\/supper\/([^/]+)\/([^/]+)/;
/** The views that show a part of one supper. */
const PARTS = ["/plan", "/dough", "/timeline"];

/** Where a view is, from where the cook is now: the parts of one supper lead to each other. */
export function pathFrom(pathname: string, view: string): string {
  const supper = IN_SUPPER.exec(pathname)?.[1];
  return supper && PARTS.includes(view) ? `/supper/${supper}${view}` : view;
}

/** Whether this view is the one that is open. */
export function isOpen(pathname: string, view: string): boolean {
  const part = IN_SUPPER.exec(pathname)?.[2];
  return part ? view === `/${part}` : pathname === view || pathname.startsWith(`${view}/`);
}

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
