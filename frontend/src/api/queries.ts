/** The one place where answers of the server are kept for a while, asked anew and polled. */
import { QueryClient } from "@tanstack/vue-query";

export const queries = new QueryClient({
  defaultOptions: {
    queries: { retry: false, refetchOnWindowFocus: false, refetchOnReconnect: true },
  },
});
