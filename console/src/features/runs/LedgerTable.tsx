import { useInfiniteQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { api } from '../../api/client';
import type { LedgerRowView, Page, RunView } from '../../api/client';
import { keys } from '../../api/keys';
import { number } from '../../lib/format';
import { isOver } from '../../lib/runState';
import { Failed } from '../../ui/Failed';
import { Loading } from '../../ui/Loading';

const PAGE = 100;

/** Lines of the ledger, one outcome after the other; an empty outcome means all rows. */
export function LedgerTable({ run, outcomes }: { run: RunView; outcomes: string[] }) {
  return (
    <>
      {outcomes.map((outcome) => (
        <OneOutcome key={outcome} run={run} outcome={outcome} alone={outcomes.length === 1} />
      ))}
    </>
  );
}

function OneOutcome({ run, outcome, alone }: { run: RunView; outcome: string; alone: boolean }) {
  const id = String(run.id);
  const filter = outcome && `&outcome=${outcome}`;
  const ledger = useInfiniteQuery({
    queryKey: keys.ledger(id, outcome),
    queryFn: ({ pageParam }) =>
      api.get<Page<LedgerRowView>>(`/runs/${id}/ledger?limit=${PAGE}${filter}${pageParam && `&cursor=${pageParam}`}`),
    initialPageParam: '',
    getNextPageParam: (page) => page.next,
    refetchInterval: isOver(run) ? false : 2_000,
  });
  const rows = ledger.data?.pages.flatMap((page) => page.items) ?? [];
  if (ledger.isPending) {
    return <Loading rows={4} />;
  }
  if (ledger.error && !ledger.data) {
    return <Failed error={ledger.error} again={() => void ledger.refetch()} />;
  }
  if (rows.length === 0) {
    return alone ? <p className="soft">There are no such rows.</p> : null;
  }
  const several = run.balance.writes.length > 1;
  const heading = outcome === 'inserted' ? 'New records' : 'Changed records';
  return (
    <>
      {!alone && <h2>{heading}</h2>}
      <table className="sheet" aria-label={alone ? 'Rows' : heading}>
        <thead>
          <tr>
            {several && <th scope="col">Write</th>}
            <th scope="col">{several ? 'Key' : run.keyFields.join(' · ')}</th>
            {outcome === '' && <th scope="col">Outcome</th>}
            <th scope="col">{outcome === 'inserted' ? 'Is' : 'Was → is'}</th>
            <th scope="col" className="number">
              From row
            </th>
            <th scope="col">Source</th>
            <th scope="col" className="number">
              Line
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={`${row.write} ${row.row} ${row.key.join(' ')}`}>
              {several && <td className="mono fixed top">{row.write}</td>}
              <th scope="row" className="mono fixed top">
                {row.key.join(' · ') || <span className="soft">no key</span>}
              </th>
              {outcome === '' && <td className="fixed top">{row.outcome}</td>}
              <td className="top">
                <Changes row={row} keyFields={keyFields(run, row)} />
              </td>
              <td className="number top">{number(row.row)}</td>
              <td className="top">{row.source}</td>
              <td className="number top">{number(row.line)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {ledger.hasNextPage && (
        <Button className="mt-2" size="sm" variant="outline-secondary" onClick={() => void ledger.fetchNextPage()}>
          Show more
        </Button>
      )}
    </>
  );
}

function keyFields(run: RunView, row: LedgerRowView): string[] {
  return run.balance.writes.find((write) => write.write === row.write)?.keyFields ?? run.keyFields;
}

/** A new record's key stands in front already. */
function Changes({ row, keyFields }: { row: LedgerRowView; keyFields: string[] }) {
  const inserted = row.outcome === 'inserted';
  return (
    <div className="raw">
      {row.note && <span className="soft">{row.note}</span>}
      {row.changes
        .filter((change) => !inserted || (change.after !== undefined && !keyFields.includes(change.field)))
        .map((change) => (
          <span key={change.field}>
            <span className="mono soft">{change.field}</span>{' '}
            {!inserted && (
              <>
                <span className="old">{change.before ?? '(empty)'}</span> <span className="soft">→</span>{' '}
              </>
            )}
            <span className="new">{change.after ?? '(empty)'}</span>
          </span>
        ))}
    </div>
  );
}
