import "@fontsource/ibm-plex-mono/latin-500.css";
import "@fontsource/ibm-plex-sans-condensed/latin-400.css";
import "@fontsource/ibm-plex-sans-condensed/latin-600.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./App";
import { ApiError, openDrafts } from "./base";
import "./theme/theme.scss";

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      retry: (count, error) => error instanceof ApiError && error.again && count < 2,
      retryDelay: (count) => Math.min(1000 * 2 ** count, 8000),
    },
  },
});
const root = document.getElementById("root");
const app = (
  <StrictMode>
    <QueryClientProvider client={client}>
      <App />
    </QueryClientProvider>
  </StrictMode>
);
if (root) void openDrafts().then(() => createRoot(root).render(app));
