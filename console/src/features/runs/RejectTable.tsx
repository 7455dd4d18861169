import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { Page, RejectView, RunView } from '../../api/client';
import { keys } from '../../api/keys';
import { isOver } from '../../lib/runState';
import { Loaded } from '../../ui/Loaded';
import { RejectedRows } from '../../ui/RejectedRows';
import { MendedWorkbook } from './MendedWorkbook';
import { RejectActions } from './RejectActions';
import { RejectReasons } from './RejectReasons';
import { Resubmit } from './Resubmit';

/** The rejects of a run: how many for which reason, then each with its raw row. */
export function RejectTable({ run }: { run: RunView }) {
  const id = String(run.id);
  const refetchInterval = isOver(run) ? false : (2_000 as const);
  const rejects = useQuery({
    queryKey: keys.rejectsOf(id),
    queryFn: () => api.get<Page<RejectView>>(`/rejects?run=${id}&limit=200`),
    refetchInterval,
  });
  return (
    <>
      <Loaded query={rejects}>
        {(page) =>
          page.items.length === 0 ? (
            <p className="soft">No row was rejected.</p>
          ) : (
            <>
              <div className="d-flex gap-2 flex-wrap mb-2">
                <Resubmit run={run} />
                <MendedWorkbook run={run} />
              </div>
              <RejectReasons run={run} />
              <RejectedRows
                rejects={page.items}
                actions={(made) => <RejectActions made={made} environment={run.environment} />}
              />
              {page.next && (
                <p className="soft mt-2">
                  The first {page.items.length} are shown. All of them:{' '}
                  <code>nachlauf rejects export --run {id} --out FILE</code>
                </p>
              )}
            </>
          )
        }
      </Loaded>
    </>
  );
}
