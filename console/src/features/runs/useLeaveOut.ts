import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { LeftOutView } from '../../api/client';
import { keys } from '../../api/keys';

/** Leaves rows of a held run out, or takes them in again. */
export function useLeaveOut(run: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (word: { rows: string; leftOut: boolean }) => api.post<LeftOutView>(`/runs/${run}/left-out`, word),
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: keys.run(run) }),
        queries.invalidateQueries({ queryKey: keys.ledgerOf(run) }),
      ]),
  });
}
