import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { Page, RejectView, RunView } from '../../api/client';
import { keys } from '../../api/keys';
import { number } from '../../lib/format';
import { isOver } from '../../lib/runState';
import { Loaded } from '../../ui/Loaded';
import { RejectedRows } from '../../ui/RejectedRows';
import { RejectActions } from './RejectActions';
import { Resubmit } from './Resubmit';
import { useRejectGroups } from './useRejectGroups';

/** The rejects of a run: how many for which reason, then each with its raw row. */
export function RejectTable({ run }: { run: RunView }) {
  const id = String(run.id);
  const refetchInterval = isOver(run) ? false : (2_000 as const);
  const groups = useRejectGroups(run);
  const rejects = useQuery({
    queryKey: keys.rejectsOf(id),
    queryFn: () => api.get<Page<RejectView>>(`/rejects?run=${id}&limit=200`),
    refetchInterval,
  });
  return (
    <>
      {groups.data && groups.data.items.length > 0 && (
        <p className="soft">
          {groups.data.items
            .map(
              (group) =>
                `${number(group.count)} ${group.code}${group.field && ` (${group.field})`}${group.byTarget ? ' by the target' : ''}`,
            )
            .join(' · ')}
        </p>
      )}
      <Loaded query={rejects}>
        {(page) =>
          page.items.length === 0 ? (
            <p className="soft">No row was rejected.</p>
          ) : (
            <>
              <div className="mb-2">
                <Resubmit run={run} />
              </div>
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
