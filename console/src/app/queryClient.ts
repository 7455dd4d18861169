import { MutationCache, QueryCache, QueryClient } from '@tanstack/react-query';
import { Refused, ServiceGone } from '../api/client';
import { SESSION } from '../lib/session';

/** A session that is over shows itself in whatever is called next. */
function lookWhetherSignedOut(error: Error) {
  if (error instanceof Refused && error.status === 401) {
    void queryClient.invalidateQueries({ queryKey: SESSION });
  }
}

/** Nothing is retried behind the reader's back: a service that is gone is shown and asked again by the strip. */
export const queryClient = new QueryClient({
  queryCache: new QueryCache({
    onError: (error, query) => {
      if (query.queryKey !== SESSION) {
        lookWhetherSignedOut(error);
      }
    },
  }),
  mutationCache: new MutationCache({ onError: lookWhetherSignedOut }),
  defaultOptions: {
    queries: {
      retry: false,
      staleTime: 2_000,
      refetchInterval: (query) => (query.state.error instanceof ServiceGone ? 5_000 : false),
    },
  },
});
