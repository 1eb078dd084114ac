import { QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { complain } from "../stores/notes";
import { App } from "./App";

/** Read errors are shown, unless the caller shows them (`meta.told`). */
const queryCache = new QueryCache({
  onError: (error, query) => {
    if (!query.meta?.told) complain(error);
  },
});

const queries = new QueryClient({
  queryCache,
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true } },
});

/** Puts the application on the page. */
export function show(element: HTMLElement): void {
  createRoot(element).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <App />
      </QueryClientProvider>
    </StrictMode>,
  );
}
