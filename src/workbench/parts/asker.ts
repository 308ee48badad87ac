import { QueryClient } from "@tanstack/react-query";

/**
 * What was asked of the server: kept for five minutes, so that a screen that is opened again shows it at once while it asks anew.
 * Nothing is asked again by itself, but for what says so: a refusal is shown as it comes.
 */
export const makeAsker = (): QueryClient =>
  new QueryClient({
    defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false, networkMode: "always" } },
  });
