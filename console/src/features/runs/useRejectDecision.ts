import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from '../../api/client';
import { keys } from '../../api/keys';

/** Decides about rejects of a run, then shows them as they are. */
export function useRejectDecision(run: number, decided: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (decision: { word: 'fix' | 'set-aside'; body: unknown }) =>
      api.post(`/rejects/${decision.word}`, decision.body),
    onSuccess: async () => {
      await Promise.all([
        queries.invalidateQueries({ queryKey: keys.rejects }),
        queries.invalidateQueries({ queryKey: keys.run(String(run)) }),
      ]);
      decided();
    },
  });
}
