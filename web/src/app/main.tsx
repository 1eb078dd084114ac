import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./App";
import "./theme.css";

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true } } });
const root = document.getElementById("root");

/** Canvases write numbers with the font that is there when they draw: it has to be there first. */
const font = document.fonts.load('11px "IBM Plex Mono"');

function start(element: HTMLElement): void {
  createRoot(element).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <App />
      </QueryClientProvider>
    </StrictMode>,
  );
}

if (root) void font.finally(() => start(root));
