import { QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { onSignedOut } from "./api/client";
import { keepAnswers } from "./api/kept";
import { queries } from "./api/queryClient";
import { beginSession, lock, SESSION_KEY } from "./api/session";
import { App } from "./app/App";
import { keepPage } from "./app/worker";
import "./styles.css";
import { UnitsProvider } from "./ui/units";

onSignedOut(() => void lock().then(() => queries.invalidateQueries({ queryKey: SESSION_KEY })));
await beginSession();
keepAnswers(queries);
for (const key of [SESSION_KEY, ["bakes"], ["bake"], ["bake-answer"]])
  void queries.invalidateQueries({ queryKey: key });
void keepPage();

setNonce(document.querySelector('meta[name="nonce"]')?.getAttribute("content") ?? "");

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
