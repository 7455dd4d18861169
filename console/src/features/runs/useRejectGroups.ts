import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { Page, RejectGroup, RunView } from '../../api/client';
import { keys } from '../../api/keys';
import { isOver } from '../../lib/runState';

/** How fine the reasons are told apart. */
export type GroupedBy = 'code' | 'field' | 'value';

/** How many rows of a run were rejected for which reason. */
export function useRejectGroups(run: RunView, by: GroupedBy = 'field') {
  return useQuery({
    queryKey: keys.rejectGroups(String(run.id), by),
    queryFn: () => api.get<Page<RejectGroup>>(`/rejects/groups?run=${run.id}&by=${by}`),
    refetchInterval: isOver(run) ? false : 2_000,
  });
}
