import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api } from '../../api/client';
import type { RunView } from '../../api/client';
import { keys } from '../../api/keys';
import { isOver } from '../../lib/runState';

/** A run, kept up to date by its event stream while it moves. */
export function useRun(id: string) {
  const queries = useQueryClient();
  const run = useQuery({ queryKey: keys.run(id), queryFn: () => api.get<RunView>(`/runs/${id}`) });
  const moving = run.data !== undefined && !isOver(run.data);
  useEffect(() => {
    if (!moving) {
      return;
    }
    const events = new EventSource(`/api/v1/runs/${id}/events`);
    const take = (event: MessageEvent<string>) => queries.setQueryData(keys.run(id), JSON.parse(event.data) as RunView);
    events.addEventListener('progress', take);
    events.addEventListener('end', (event: MessageEvent<string>) => {
      take(event);
      events.close();
      void queries.invalidateQueries({ queryKey: keys.ledgerOf(id) });
      void queries.invalidateQueries({ queryKey: keys.rejectsOf(id) });
    });
    return () => events.close();
  }, [id, moving, queries]);
  return run;
}
