import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link } from 'react-router';
import { useMay } from '../../lib/session';
import { api } from '../../api/client';
import type { GapView, Page, RunView, SharedChange } from '../../api/client';
import { areGaps, keys } from '../../api/keys';
import { count, number } from '../../lib/format';
import { Loaded } from '../../ui/Loaded';
import { Resubmit } from './Resubmit';

/** Values of a run's rows that no crosswalk translates, as the crosswalks are now; they are added here. */
export function GapTable({ run }: { run: RunView }) {
  const [added, setAdded] = useState<SharedChange[]>([]);
  const gaps = useQuery({
    queryKey: keys.gaps(String(run.id)),
    queryFn: () => api.get<Page<GapView>>(`/runs/${run.id}/gaps`),
    staleTime: Infinity,
  });
  return (
    <>
      <div role="status">
        {added.map((change) => (
          <div key={`${change.name} ${change.version}`} className="mb-2">
            <p className="mb-1">{said(change)}</p>
            {change.healed.length > 0 && <Resubmit run={run} healedBy={change.name} />}
          </div>
        ))}
      </div>
      <Loaded query={gaps}>
        {(page) =>
          page.items.length === 0 ? (
            <p className="soft">Every value of this run has a translation now.</p>
          ) : (
            <table className="sheet" aria-label="Values without a translation">
              <thead>
                <tr>
                  <th scope="col">Crosswalk</th>
                  <th scope="col">Value</th>
                  <th scope="col">Scope</th>
                  <th scope="col" className="number">
                    Rows
                  </th>
                  <th scope="col">For instance</th>
                  <th scope="col" style={{ width: '26%' }}>
                    Becomes
                  </th>
                </tr>
              </thead>
              <tbody>
                {page.items.map((gap) => (
                  <GapRow
                    key={`${gap.crosswalk} ${gap.scope} ${gap.value}`}
                    gap={gap}
                    done={(change) => setAdded([...added, change])}
                  />
                ))}
              </tbody>
            </table>
          )
        }
      </Loaded>
    </>
  );
}

function said(change: SharedChange): string {
  const healed = change.healed.length === 0 ? 'no open reject' : `${count(change.healed.length, 'open reject')}`;
  return `${change.name} is saved as version ${change.version}; that heals ${healed}${
    change.healed.length === 0 ? '' : ` (${change.healed.join(', ')})`
  }.`;
}

function GapRow({ gap, done }: { gap: GapView; done: (change: SharedChange) => void }) {
  const queries = useQueryClient();
  const mayBuild = useMay('build');
  const [to, setTo] = useState('');
  const add = useMutation({
    mutationFn: () =>
      api.post<SharedChange>(`/crosswalks/${gap.crosswalk}/entries`, {
        entries: [{ from: gap.value, to, scope: gap.scope === '' ? undefined : gap.scope }],
      }),
    onSuccess: async (change) => {
      done(change);
      await queries.invalidateQueries({ queryKey: keys.crosswalks });
      await queries.invalidateQueries({ predicate: (query) => areGaps(query.queryKey) });
    },
  });
  return (
    <tr>
      <th scope="row">
        <Link className="mono" to={`/crosswalks/${gap.crosswalk}`}>
          {gap.crosswalk}
        </Link>
      </th>
      <td className="mono">{gap.value === '' ? '(empty)' : gap.value}</td>
      <td className="mono">{gap.scope}</td>
      <td className="number">{number(gap.rows)}</td>
      <td>{gap.examples[0]}</td>
      <td>
        {mayBuild && (
          <Form
            className="inline"
            onSubmit={(event) => {
              event.preventDefault();
              add.mutate();
            }}
          >
            <Form.Control
              className="value"
              aria-label={`What ${gap.value} becomes`}
              value={to}
              onChange={(event) => setTo(event.target.value)}
            />
            <Button type="submit" size="sm" variant="outline-secondary" disabled={to === '' || add.isPending}>
              Add
            </Button>
          </Form>
        )}
        {add.error && (
          <span className="bad" role="alert">
            {add.error.message}
          </span>
        )}
      </td>
    </tr>
  );
}
