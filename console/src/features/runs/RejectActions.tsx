import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { RejectView } from '../../api/client';
import { useMay } from '../../lib/session';
import { Question } from '../../ui/Question';
import { ids } from './corrections';
import { FixDialog } from './FixDialog';
import { useRejectDecision } from './useRejectDecision';

/** How a rejected row stands, and what a person can decide about it. */
export function RejectActions({ made, environment }: { made: RejectView[]; environment: string }) {
  const may = useMay('run');
  const [asked, setAsked] = useState<'fix' | 'aside'>();
  const leave = () => setAsked(undefined);
  const reject = made[0];
  if (!reject) {
    return null;
  }
  const open = reject.state === 'open' && reject.sentBy === undefined;
  return (
    <>
      <Standing reject={reject} />
      {may && open && reject.row > 0 && (
        <div className="d-flex gap-2 flex-wrap">
          <Button size="sm" variant="outline-secondary" onClick={() => setAsked('fix')}>
            Correct
          </Button>
          <Button size="sm" variant="outline-secondary" onClick={() => setAsked('aside')}>
            Set aside
          </Button>
        </div>
      )}
      {may && reject.state === 'set-aside' && <TakeIn made={made} run={reject.run} />}
      {asked === 'fix' && <FixDialog made={made} reject={reject} leave={leave} />}
      {asked === 'aside' && <SetAside made={made} reject={reject} environment={environment} leave={leave} />}
    </>
  );
}

/** What has become of the row since it was rejected first. */
function Standing({ reject }: { reject: RejectView }) {
  const corrections = Object.entries(reject.corrections);
  return (
    <div className="small">
      {reject.sentBy !== undefined && <div>sent again by run {reject.sentBy}</div>}
      {reject.attempts > 1 && <div>rejected {reject.attempts} times</div>}
      {reject.state === 'set-aside' && (
        <div>
          set aside by {reject.decidedBy}: {reject.note}
        </div>
      )}
      {corrections.map(([column, text]) => (
        <div key={column}>
          corrected: <span className="mono">{column}</span> = <span className="mono">{text || '–'}</span>
        </div>
      ))}
    </div>
  );
}

function TakeIn({ made, run }: { made: RejectView[]; run: number }) {
  const decide = useRejectDecision(run, () => undefined);
  return (
    <Button
      size="sm"
      variant="outline-secondary"
      disabled={decide.isPending}
      onClick={() =>
        decide.mutate({ word: 'set-aside', body: { rejects: { ids: ids(made) }, aside: false, note: '' } })
      }
    >
      Take in again
    </Button>
  );
}

interface Aside {
  made: RejectView[];
  reject: RejectView;
  environment: string;
  leave: () => void;
}

function SetAside({ made, reject, environment, leave }: Aside) {
  const [note, setNote] = useState('');
  const decide = useRejectDecision(reject.run, leave);
  return (
    <Question
      title={`Set ${reject.place} aside?`}
      yes="Set it aside"
      environment={environment}
      ready={note.trim() !== '' && !decide.isPending}
      act={() => decide.mutate({ word: 'set-aside', body: { rejects: { ids: ids(made) }, aside: true, note } })}
      leave={leave}
    >
      {decide.error && (
        <p className="bad" role="alert">
          {decide.error.message}
        </p>
      )}
      <p>The row is kept, and not sent again until somebody takes it in.</p>
      <Form.Group controlId="aside-note">
        <Form.Label>Why</Form.Label>
        <Form.Control value={note} onChange={(event) => setNote(event.target.value)} />
      </Form.Group>
    </Question>
  );
}
