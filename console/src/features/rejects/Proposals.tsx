import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { api } from '../../api/client';
import type { Page, ProposalView, SharedChange } from '../../api/client';
import { keys } from '../../api/keys';
import { count, number } from '../../lib/format';
import { useMay } from '../../lib/session';

/** What equal corrections teach; shown only where there is something to learn. */
export function Proposals() {
  const proposals = useQuery({
    queryKey: keys.proposals,
    queryFn: () => api.get<Page<ProposalView>>('/rejects/proposals'),
  });
  const items = proposals.data?.items ?? [];
  return items.length === 0 ? null : (
    <section>
      <h2>Corrected again and again</h2>
      <table className="sheet" aria-label="Proposals">
        <thead>
          <tr>
            <th scope="col">Job</th>
            <th scope="col">Column</th>
            <th scope="col">Was → corrected to</th>
            <th scope="col" className="number">
              Rows
            </th>
            <th scope="col" className="number">
              Waiting
            </th>
            <th scope="col" style={{ width: '40%' }}>
              What would make the correction from now on
            </th>
          </tr>
        </thead>
        <tbody>
          {items.map((proposal) => (
            <tr key={`${proposal.job} ${proposal.column} ${proposal.from} ${proposal.to}`}>
              <td className="top">
                <Link to={`/jobs/${proposal.job}`}>{proposal.job}</Link>
              </td>
              <td className="mono top">{proposal.column}</td>
              <td className="top">
                <span className="old">{proposal.from}</span> <span className="soft">→</span>{' '}
                <span className="new">{proposal.to}</span>
              </td>
              <td className="number top">{number(proposal.fixed)}</td>
              <td className="number top">{number(proposal.heals)}</td>
              <td className="top">
                {proposal.crosswalk === undefined ? (
                  <>
                    A step of the job: <code className="wrap">{proposal.step}</code>
                  </>
                ) : (
                  <Entry crosswalk={proposal.crosswalk} from={proposal.from} to={proposal.translation ?? ''} />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** An entry that a person accepts by adding it. */
function Entry({ crosswalk, from, to }: { crosswalk: string; from: string; to: string }) {
  const queries = useQueryClient();
  const may = useMay('build');
  const add = useMutation({
    mutationFn: () => api.post<SharedChange>(`/crosswalks/${crosswalk}/entries`, { entries: [{ from, to }] }),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.crosswalks }),
  });
  if (add.data) {
    return (
      <span role="status">
        {crosswalk} is saved as version {add.data.version}; that heals {count(add.data.healed.length, 'open reject')}.
      </span>
    );
  }
  return (
    <div className="d-flex gap-2 align-items-start flex-wrap">
      <span>
        <Link to={`/crosswalks/${crosswalk}`}>{crosswalk}</Link>: {from} <span className="soft">→</span> {to}
      </span>
      {may && (
        <Button size="sm" variant="outline-secondary" disabled={add.isPending} onClick={() => add.mutate()}>
          Add it
        </Button>
      )}
      {add.error && (
        <span className="bad" role="alert">
          {add.error.message}
        </span>
      )}
    </div>
  );
}
