import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { api, Refused } from '../../api/client';
import type { EnvironmentView, JobView, Page, PromotionView } from '../../api/client';
import { keys } from '../../api/keys';
import { useEnvironments } from '../../lib/environment';
import { moment } from '../../lib/format';
import { useMay } from '../../lib/session';
import { Findings } from '../../ui/Findings';
import { Question } from '../../ui/Question';

/** Which version of a job runs in each live environment; not there where none is live. */
export function Promotions({ job }: { job: JobView }) {
  const live = useEnvironments().filter((environment) => environment.live);
  const promotions = useQuery({
    queryKey: keys.promotionsOf(job.name),
    queryFn: () => api.get<Page<PromotionView>>(`/jobs/${job.name}/promotions`),
    enabled: live.length > 0,
  });
  if (live.length === 0 || !promotions.data) {
    return null;
  }
  return (
    <div className="needs">
      {live.map((environment) => (
        <InForce
          key={environment.name}
          job={job}
          environment={environment}
          promotion={promotions.data.items.find((one) => one.inForce && one.environment === environment.name)}
        />
      ))}
    </div>
  );
}

interface Line {
  job: JobView;
  environment: EnvironmentView;
  /** What runs there; undefined where nothing does. */
  promotion: PromotionView | undefined;
}

function InForce({ job, environment, promotion }: Line) {
  const mayBuild = useMay('build');
  const [asking, setAsking] = useState(false);
  return (
    <div>
      <span>
        {promotion ? (
          <>
            Version {promotion.version} runs in {environment.name}
            <span className="soft">
              {' '}
              · promoted {moment(promotion.promotedAt)} by {promotion.promotedBy}: {promotion.note}
            </span>
          </>
        ) : (
          <>Nothing runs in {environment.name} yet: no version was promoted to it.</>
        )}
      </span>
      {mayBuild && !job.draft && promotion?.version !== job.version && (
        <Button size="sm" variant="outline-secondary" onClick={() => setAsking(true)}>
          Promote version {job.version}
        </Button>
      )}
      {asking && <Promote job={job} environment={environment} leave={() => setAsking(false)} />}
    </div>
  );
}

function Promote({ job, environment, leave }: { job: JobView; environment: EnvironmentView; leave: () => void }) {
  const queries = useQueryClient();
  const [note, setNote] = useState('');
  const promote = useMutation({
    mutationFn: () =>
      api.post<PromotionView>(`/jobs/${job.name}/promote`, { to: environment.name, note, version: job.version }),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: keys.promotionsOf(job.name) });
      leave();
    },
  });
  return (
    <Question
      title={`Promote version ${job.version} to ${environment.name}?`}
      yes="Promote it"
      environment={environment.name}
      ready={note.trim() !== '' && !promote.isPending}
      act={() => promote.mutate()}
      leave={leave}
    >
      <p>It is checked against the systems there first. Runs that are under way keep their version.</p>
      <Form.Group controlId="note">
        <Form.Label>What changes, and why</Form.Label>
        <Form.Control size="sm" value={note} onChange={(event) => setNote(event.target.value)} />
      </Form.Group>
      {promote.error && (
        <div role="alert" className="mt-3">
          <p className="bad">{promote.error.message}</p>
          {promote.error instanceof Refused && <Findings findings={promote.error.problems} />}
        </div>
      )}
    </Question>
  );
}
