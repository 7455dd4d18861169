import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate } from 'react-router';
import { api } from '../../api/client';
import type { RunView } from '../../api/client';
import { keys } from '../../api/keys';
import { changed, changesOf } from '../../lib/balance';
import { count } from '../../lib/format';
import { useLive } from '../../lib/environment';
import { isAsAsked, isOfASecond, isOver, waitsForASecond } from '../../lib/runState';
import { useMay, useSession } from '../../lib/session';
import { Question } from '../../ui/Question';

/** What a person can decide about a run now. */
export function Decisions({ run, verify }: { run: RunView; verify: () => void }) {
  const may = useMay('run');
  if (!isOver(run)) {
    return may ? <Stop run={run} /> : null;
  }
  if (run.state === 'held') {
    return may ? <Held run={run} verify={verify} /> : null;
  }
  return run.planned || changed(run.balance) === 0 ? null : <After run={run} verify={verify} may={may} />;
}

function useDecision(run: RunView) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (decision: { word: 'stop' | 'release' | 'discard'; body?: unknown }) =>
      api.post<RunView>(`/runs/${run.id}/${decision.word}`, decision.body),
    onSuccess: (decided) => queries.setQueryData(keys.run(String(run.id)), decided),
  });
}

function Failure({ error }: { error: Error | null }) {
  return (
    error && (
      <span className="bad align-self-center" role="alert">
        {error.message}
      </span>
    )
  );
}

function Stop({ run }: { run: RunView }) {
  const decide = useDecision(run);
  return (
    <>
      <Failure error={decide.error} />
      <Button
        variant="outline-secondary"
        disabled={run.stopRequested || decide.isPending}
        onClick={() => decide.mutate({ word: 'stop' })}
      >
        {run.stopRequested ? 'Ends after this batch' : 'Stop after this batch'}
      </Button>
    </>
  );
}

function Held({ run, verify }: { run: RunView; verify: () => void }) {
  const decide = useDecision(run);
  const [asking, setAsking] = useState(false);
  const live = useLive(run.environment);
  const me = useSession().data?.name;
  const another = waitsForASecond(run) && me === run.startedBy;
  const beyondLimit = !run.reasons.every((reason) => isAsAsked(reason) || isOfASecond(reason));
  const rest = beyondLimit ? 'Go on beyond the limit' : 'Write the other rows';
  const release = () => {
    setAsking(false);
    decide.mutate({ word: 'release', body: { beyondLimit } });
  };
  return (
    <>
      <Failure error={decide.error} />
      {!run.planned && (
        <Button variant="outline-secondary" onClick={verify}>
          Compare with what is there
        </Button>
      )}
      <Button
        variant="outline-secondary"
        disabled={decide.isPending}
        onClick={() => decide.mutate({ word: 'discard' })}
      >
        Discard the run
      </Button>
      <Button
        disabled={decide.isPending || another}
        title={another ? 'You have started it, so somebody else releases it' : undefined}
        onClick={run.planned || live ? () => setAsking(true) : release}
      >
        {run.planned ? 'Write what is planned' : rest}
      </Button>
      {asking && (
        <Question
          title={run.planned ? 'Write what is planned?' : 'Go on?'}
          yes={run.planned ? 'Write it' : rest}
          environment={run.environment}
          act={release}
          leave={() => setAsking(false)}
        >
          {run.planned && (
            <p>
              Planned: {changesOf(run.balance)} in {run.targetConnection} {run.targetRecords}.
            </p>
          )}
          {run.leftOut > 0 && <p>Of that, {count(run.leftOut, 'row')} left out, with what belongs to them.</p>}
          {beyondLimit && <p>The run goes on beyond its limit.</p>}
          {run.planned && (
            <p className="soft mb-0">
              A record that has changed since it was planned is left alone, and its row rejected.
            </p>
          )}
        </Question>
      )}
    </>
  );
}

function After({ run, verify, may }: { run: RunView; verify: () => void; may: boolean }) {
  const go = useNavigate();
  const [asking, setAsking] = useState(false);
  const undo = useMutation({
    mutationFn: () => api.post<RunView>(`/runs/${run.id}/undo`, {}),
    onSuccess: (started) => void go(`/runs/${started.id}`),
  });
  return (
    <>
      <Failure error={undo.error} />
      <Button variant="outline-secondary" onClick={verify}>
        Compare with what is there
      </Button>
      {may && run.undoneBy === undefined && (
        <Button variant="outline-secondary" disabled={undo.isPending} onClick={() => setAsking(true)}>
          Undo the run
        </Button>
      )}
      {asking && (
        <Question
          title={`Take back what run ${run.id} has written?`}
          yes="Take it back"
          environment={run.environment}
          act={() => {
            setAsking(false);
            undo.mutate();
          }}
          leave={() => setAsking(false)}
        >
          <p>
            {changesOf(run.balance)} in {run.targetConnection} {run.targetRecords}: new records go, changed fields get
            their old values, removed records come back.
          </p>
          <p className="soft mb-0">What was changed since is reported and left alone. The undo is a run of its own.</p>
        </Question>
      )}
    </>
  );
}
