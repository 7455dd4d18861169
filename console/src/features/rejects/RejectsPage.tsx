import { useInfiniteQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { Link } from 'react-router';
import { api } from '../../api/client';
import type { Page, RejectView } from '../../api/client';
import { keys } from '../../api/keys';
import { Empty } from '../../ui/Empty';
import { Failed } from '../../ui/Failed';
import { Loading } from '../../ui/Loading';
import { PageHead } from '../../ui/PageHead';
import { RejectedRows } from '../../ui/RejectedRows';
import { Proposals } from './Proposals';

/** All rejects, run by run. */
export function RejectsPage() {
  const rejects = useInfiniteQuery({
    queryKey: keys.rejects,
    queryFn: ({ pageParam }) => api.get<Page<RejectView>>(`/rejects?limit=200${pageParam && `&cursor=${pageParam}`}`),
    initialPageParam: '',
    getNextPageParam: (page) => page.next,
  });
  const items = rejects.data?.pages.flatMap((page) => page.items) ?? [];
  const runs = [...new Set(items.map((reject) => reject.run))];
  return (
    <>
      <PageHead title="Rejects" state="Rows that were not written, with everything that is wrong with them." />
      <Proposals />
      {rejects.isPending && <Loading rows={6} />}
      {rejects.error && !rejects.data && <Failed error={rejects.error} again={() => void rejects.refetch()} />}
      {rejects.data && items.length === 0 && (
        <Empty title="No row is rejected.">Every row of every run was written.</Empty>
      )}
      {runs.map((run) => {
        const ofRun = items.filter((reject) => reject.run === run);
        return (
          <section key={run}>
            <h2>
              <Link to={`/runs/${run}/rejects`}>Run {run}</Link>{' '}
              <span className="soft" style={{ fontWeight: 400 }}>
                {ofRun[0]?.job} · {ofRun[0]?.file}
              </span>
            </h2>
            <RejectedRows rejects={ofRun} />
          </section>
        );
      })}
      {rejects.hasNextPage && (
        <Button className="mt-3" variant="outline-secondary" onClick={() => void rejects.fetchNextPage()}>
          Show more
        </Button>
      )}
    </>
  );
}
