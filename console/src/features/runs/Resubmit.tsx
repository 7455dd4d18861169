import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate } from 'react-router';
import { api } from '../../api/client';
import type { Page, RunView } from '../../api/client';
import { count } from '../../lib/format';
import { useMay } from '../../lib/session';
import { Question } from '../../ui/Question';

interface Again {
  run: RunView;
  /** Only what this crosswalk has healed; undefined for all that is open. */
  healedBy?: string;
}

/** Sends the open rejects of a run through its job again, as it is now. */
export function Resubmit({ run, healedBy }: Again) {
  const go = useNavigate();
  const may = useMay('run');
  const [asking, setAsking] = useState(false);
  const again = useMutation({
    mutationFn: async () => {
      const healed = healedBy && (await api.get<Page<number>>(`/crosswalks/${healedBy}/healed?run=${run.id}`)).items;
      return api.post<RunView>(`/runs/${run.id}/resubmit`, healed ? { ids: healed } : {});
    },
    onSuccess: (started) => void go(`/runs/${started.id}`),
  });
  if (!may || run.openRejects === 0 || run.endedAt === undefined || run.planned) {
    return null;
  }
  return (
    <>
      {again.error && (
        <p className="bad" role="alert">
          {again.error.message}
        </p>
      )}
      <Button variant="outline-secondary" disabled={again.isPending} onClick={() => setAsking(true)}>
        {healedBy ? `Send what ${healedBy} heals again` : `Send ${count(run.openRejects, 'open row')} again`}
      </Button>
      {asking && (
        <Question
          title={healedBy ? `Send what ${healedBy} heals again?` : `Send ${count(run.openRejects, 'row')} again?`}
          yes="Send them again"
          environment={run.environment}
          act={() => {
            setAsking(false);
            again.mutate();
          }}
          leave={() => setAsking(false)}
        >
          <p>
            They go through {run.job} as it is now, with your corrections, in a run of their own that writes to{' '}
            {run.targetConnection} {run.targetRecords}.
          </p>
          <p className="soft mb-0">
            What goes through is closed. What is rejected again stays open. What is set aside stays aside.
          </p>
        </Question>
      )}
    </>
  );
}
