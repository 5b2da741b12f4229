import { keepPreviousData, QueryClient } from '@tanstack/svelte-query';
import { Problem } from './client';

/** One cache for everything that is read; live updates make parts of it stale. */
export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      placeholderData: keepPreviousData,
      refetchOnWindowFocus: false,
      retry: (count, error) =>
        !(error instanceof Problem && error.status >= 400 && error.status < 500) && count < 3
    }
  }
});
