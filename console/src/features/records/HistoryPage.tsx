import { useInfiniteQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { Link, useParams, useSearchParams } from 'react-router';
import { api } from '../../api/client';
import type { RecordChange, RecordHistoryView } from '../../api/client';
import { keys } from '../../api/keys';
import { moment, number } from '../../lib/format';
import { Empty } from '../../ui/Empty';
import { Failed } from '../../ui/Failed';
import { Loading } from '../../ui/Loading';
import { PageHead } from '../../ui/PageHead';
import { Why } from './Why';

/** What runs have made of one record, newest first. */
export function HistoryPage() {
  const { name = '', records = '' } = useParams();
  const [asked] = useSearchParams();
  const parts = asked.getAll('key');
  const query = parts.map((part) => `key=${encodeURIComponent(part)}`).join('&');
  const history = useInfiniteQuery({
    queryKey: keys.history(name, records, parts),
    queryFn: ({ pageParam }) =>
      api.get<RecordHistoryView>(
        `/connections/${name}/records/${encodeURIComponent(records)}/history?${query}${pageParam && `&cursor=${pageParam}`}`,
      ),
    initialPageParam: '',
    getNextPageParam: (page) => page.next,
  });
  const changes = history.data?.pages.flatMap((page) => page.items) ?? [];
  const note = history.data?.pages[0]?.note;
  return (
    <>
      <PageHead
        crumb={
          <>
            <Link to={`/connections/${name}`}>{name}</Link> ›{' '}
            <Link to={`/connections/${name}/${records}`}>{records}</Link>
          </>
        }
        title={
          <span className="mono" style={{ fontSize: 18 }}>
            {parts.map((part) => part.slice(part.indexOf('=') + 1)).join(' · ')}
          </span>
        }
        state={`What runs have changed in the record with ${parts.join(', ')}, newest first.`}
      />
      {history.isPending && <Loading rows={4} />}
      {history.error && !history.data && <Failed error={history.error} again={() => void history.refetch()} />}
      {note && <p className="soft">{note}</p>}
      {history.data && changes.length === 0 && (
        <Empty title="No run has changed this record.">
          It may have been made by hand, or by another system. Ledgers are kept for a while only.
        </Empty>
      )}
      {changes.length > 0 && (
        <>
          <Why
            address={`/connections/${name}/records/${encodeURIComponent(records)}`}
            query={query}
            fields={[...new Set(changes.flatMap((change) => change.changes.map((field) => field.field)))].sort()}
          />
          <Changes changes={changes} />
        </>
      )}
      {history.hasNextPage && (
        <Button className="mt-2" size="sm" variant="outline-secondary" onClick={() => void history.fetchNextPage()}>
          Show older changes
        </Button>
      )}
    </>
  );
}

function Changes({ changes }: { changes: RecordChange[] }) {
  return (
    <table className="sheet" aria-label="Changes">
      <thead>
        <tr>
          <th scope="col" className="number">
            Run
          </th>
          <th scope="col">When</th>
          <th scope="col">Job</th>
          <th scope="col">By</th>
          <th scope="col">Outcome</th>
          <th scope="col" style={{ width: '45%' }}>
            Was → is
          </th>
          <th scope="col">From</th>
        </tr>
      </thead>
      <tbody>
        {changes.map((change, place) => (
          <tr key={place}>
            <th scope="row" className="number top">
              <Link to={`/runs/${change.run}`}>{change.run}</Link>
            </th>
            <td className="fixed top" title={change.at}>
              {moment(change.at)}
            </td>
            <td className="fixed top">
              {change.undoes === undefined ? (
                <span className="mono">{change.job}</span>
              ) : (
                `undo of run ${change.undoes}`
              )}
            </td>
            <td className="fixed top">{change.by}</td>
            <td className="fixed top">{change.outcome}</td>
            <td className="top">
              <div className="raw">
                {change.changes.map((field) => (
                  <span key={field.field}>
                    <span className="mono soft">{field.field}</span>{' '}
                    {change.outcome !== 'inserted' && <span className="old">{field.before ?? '(empty)'}</span>}
                    {change.outcome === 'updated' && <span className="soft"> → </span>}
                    {change.outcome !== 'deleted' && <span className="new">{field.after ?? '(empty)'}</span>}
                  </span>
                ))}
              </div>
            </td>
            <td className="top">
              {change.source} row {number(change.row)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
