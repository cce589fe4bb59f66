import { server } from "./api/queries";
import { QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Refusal } from "./api/client";
import { keepQueries } from "./api/kept";
import { App } from "./app/App";
import { keepPage } from "./app/worker";
import "./styles.css";
import { UnitsProvider } from "./ui/units";

const queries: QueryClient = new QueryClient({
  // A session that ended elsewhere shows the sign-in again; drafts are kept.
  queryCache: new QueryCache({
    onError(error) {
      if (error instanceof Refusal && error.status === 401)
        void queries.invalidateQueries({ queryKey: server.session.queryKey });
    },
  }),
  // Asked whatever the browser thinks of its line: an answer that does not come is said, and what happens is kept.
  defaultOptions: {
    queries: { retry: false, refetchOnWindowFocus: false, staleTime: 60_000, networkMode: "always" },
    mutations: { networkMode: "always" },
  },
});

// Whoever was in is in, until the server says otherwise: a bake opens at once.
await keepQueries(queries);
for (const key of [server.session.queryKey, ["bakes"], ["bake"], ["bake-answer"]])
  void queries.invalidateQueries({ queryKey: key });
void keepPage();

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <UnitsProvider>
            <App />
          </UnitsProvider>
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
