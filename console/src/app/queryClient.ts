import { QueryClient } from '@tanstack/react-query';
import { ServiceGone } from '../api/client';

/** Nothing is retried behind the reader's back: a service that is gone is shown and asked again by the strip. */
export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      retry: false,
      staleTime: 2_000,
      refetchInterval: (query) => (query.state.error instanceof ServiceGone ? 5_000 : false),
    },
  },
});
