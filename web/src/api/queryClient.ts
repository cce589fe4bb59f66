import { QueryClient } from "@tanstack/react-query";

/** What the page knows of the server's answers; one a page. */
export const queries = new QueryClient({
  // Asked whatever the browser thinks of its line: an answer that does not come is said, and what happens is kept.
  defaultOptions: {
    queries: { retry: false, refetchOnWindowFocus: false, staleTime: 60_000, networkMode: "always" },
    mutations: { networkMode: "always" },
  },
});
