import { useInfiniteQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { api } from '../../api/client';
import type { Page, RunLine } from '../../api/client';
import { keys } from '../../api/keys';
import { outcomeParts } from '../../lib/balance';
import { moment, number } from '../../lib/format';
import { runState } from '../../lib/runState';
import { Empty } from '../../ui/Empty';
import { Failed } from '../../ui/Failed';
import { Loading } from '../../ui/Loading';
import { PageHead } from '../../ui/PageHead';
import { Pill } from '../../ui/Pill';
import { SplitBar } from '../../ui/SplitBar';

export function RunsPage() {
  const runs = useInfiniteQuery({
    queryKey: keys.runs,
    queryFn: ({ pageParam }) => api.get<Page<RunLine>>(`/runs?limit=50${pageParam && `&cursor=${pageParam}`}`),
    initialPageParam: '',
    getNextPageParam: (page) => page.next,
    refetchInterval: 5_000,
  });
  const items = runs.data?.pages.flatMap((page) => page.items) ?? [];
  return (
    <>
      <PageHead title="Runs" state="Newest first." />
      {runs.isPending && <Loading rows={6} />}
      {runs.error && !runs.data && <Failed error={runs.error} again={() => void runs.refetch()} />}
      {runs.data && items.length === 0 && (
        <Empty title="Nothing has run yet.">Open a job and start it, or use the client: nachlauf run start JOB</Empty>
      )}
      {items.length > 0 && (
        <table className="sheet">
          <thead>
            <tr>
              <th scope="col" className="number">
                Run
              </th>
              <th scope="col">Job</th>
              <th scope="col" style={{ width: '30%' }}>
                Balance
              </th>
              <th scope="col" className="number">
                Rows
              </th>
              <th scope="col">File</th>
              <th scope="col">When</th>
              <th scope="col">State</th>
            </tr>
          </thead>
          <tbody>
            {items.map((run) => (
              <tr key={run.id}>
                <th scope="row" className="number">
                  <Link to={`/runs/${run.id}`}>{run.id}</Link>
                </th>
                <td className="mono">
                  {run.job}
                  {run.environment && <span className="soft"> in {run.environment}</span>}
                </td>
                <td>
                  <SplitBar parts={outcomeParts(run.balance)} planned={run.planned} />
                </td>
                <td className="number">{number(run.balance.read)}</td>
                <td>{run.undoes === undefined ? run.source : `undo of run ${run.undoes}`}</td>
                <td className="fixed" title={run.createdAt}>
                  {moment(run.createdAt)}
                </td>
                <td>
                  <Pill tone={runState(run).tone}>{runState(run).words}</Pill>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {runs.hasNextPage && (
        <Button className="mt-3" variant="outline-secondary" onClick={() => void runs.fetchNextPage()}>
          Show older runs
        </Button>
      )}
    </>
  );
}
