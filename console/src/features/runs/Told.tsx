import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { NoticeView, Page, RunView } from '../../api/client';
import { keys } from '../../api/keys';
import { moment } from '../../lib/format';
import { isOver } from '../../lib/runState';
import { useMay } from '../../lib/session';

/** What is looked at again is looked at this often, in milliseconds. */
const SOON = 2000;

/** Who was told what has become of a run, and who couldn't be. */
export function Told({ run }: { run: RunView }) {
  const key = keys.notices(String(run.id), run.state);
  const notices = useQuery({
    queryKey: key,
    queryFn: () => api.get<Page<NoticeView>>(`/runs/${run.id}/notices`),
    enabled: isOver(run) || run.state === 'held',
    refetchInterval: (query) => (query.state.data?.items.some(isUnderWay) ? SOON : false),
  });
  const queries = useQueryClient();
  const again = useMutation({
    mutationFn: () => api.post(`/runs/${run.id}/notices/again`, {}),
    onSuccess: () => queries.invalidateQueries({ queryKey: key }),
  });
  const may = useMay('run');
  const told = notices.data?.items ?? [];
  if (told.length === 0) {
    return null;
  }
  return (
    <ul className="list-unstyled mt-3 mb-0" aria-label="Told">
      {told.map((notice) => (
        <li key={notice.id} className={notice.state === 'sent' ? 'soft' : 'bad'}>
          {sentence(notice)}
        </li>
      ))}
      {may && told.some((notice) => notice.state === 'failed') && (
        <li>
          <button
            type="button"
            className="btn btn-sm btn-outline-secondary mt-1"
            disabled={again.isPending}
            onClick={() => again.mutate()}
          >
            Tell them again
          </button>
        </li>
      )}
    </ul>
  );
}

function isUnderWay(notice: NoticeView) {
  return notice.state === 'wanted' && notice.note === '';
}

/** What has become of one notice, in words. */
function sentence(notice: NoticeView) {
  const what = `${notice.connection} (${notice.occasions.join(', ')})`;
  switch (notice.state) {
    case 'sent':
      return `Told over ${what}: ${notice.note}`;
    case 'failed':
      return `Nobody could be told over ${what}: ${notice.note}`;
    default:
      return notice.note === ''
        ? `Is told over ${what}.`
        : `Nobody could be told over ${what} yet: ${notice.note} It is tried again ${notice.due ? moment(notice.due) : 'soon'}.`;
  }
}
