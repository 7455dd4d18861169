import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { Page, RejectGroup, RunView } from '../../api/client';
import { isOver } from '../../lib/runState';

/** How many rows of a run were rejected for which reason. */
export function useRejectGroups(run: RunView) {
  return useQuery({
    queryKey: ['rejects', String(run.id), 'groups'],
    queryFn: () => api.get<Page<RejectGroup>>(`/rejects/groups?run=${run.id}`),
    refetchInterval: isOver(run) ? false : 2_000,
  });
}
