import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Failed } from './Failed';
import { Loading } from './Loading';

interface LoadedProps<T> {
  query: UseQueryResult<T>;
  rows?: number;
  children: (value: T) => ReactNode;
}

/** What a query answered; grey lines before, and what failed instead. An old answer stays while a new one is fetched. */
export function Loaded<T>({ query, rows = 5, children }: LoadedProps<T>) {
  if (query.data !== undefined) {
    return children(query.data);
  }
  return query.error ? <Failed error={query.error} again={() => void query.refetch()} /> : <Loading rows={rows} />;
}
