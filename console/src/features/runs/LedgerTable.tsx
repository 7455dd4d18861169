import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link } from 'react-router';
import { api } from '../../api/client';
import type { LedgerRowView, Page, RunView } from '../../api/client';
import { keys } from '../../api/keys';
import { number } from '../../lib/format';
import { isOver } from '../../lib/runState';
import { useMay } from '../../lib/session';
import { Failed } from '../../ui/Failed';
import { Loading } from '../../ui/Loading';
import { useLeaveOut } from './useLeaveOut';

const PAGE = 100;
const CHANGES = ['inserted', 'updated', 'deleted'];
const COLUMNS: Record<string, string | undefined> = { inserted: 'Is', issued: 'Is', deleted: 'Was' };
const HEADINGS: Record<string, string | undefined> = {
  inserted: 'New records',
  issued: 'Issued rows',
  deleted: 'Removed records',
};

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
  const reviewed = run.state === 'held' && run.planned;
  const heading = HEADINGS[outcome] ?? 'Changed records';
  return (
    <>
      {!alone && <h2>{heading}</h2>}
      <table className="sheet" aria-label={alone ? 'Rows' : heading}>
        <thead>
          <tr>
            {reviewed && <th scope="col">Write it</th>}
            {several && <th scope="col">Write</th>}
            <th scope="col">{several ? 'Key' : run.keyFields.join(' · ')}</th>
            {outcome === '' && <th scope="col">Outcome</th>}
            <th scope="col">{COLUMNS[outcome] ?? 'Was → is'}</th>
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
            <tr
              key={`${row.write} ${row.row} ${row.key.join(' ')}`}
              className={row.leftOut && reviewed ? 'left-out' : undefined}
            >
              {reviewed && (
                <td className="top">
                  <LeaveOut run={id} row={row} />
                </td>
              )}
              {several && <td className="mono fixed top">{row.write}</td>}
              <th scope="row" className="mono fixed top">
                <Key run={run} row={row} />
              </th>
              {outcome === '' && <td className="fixed top">{row.outcome}</td>}
              <td className="top">
                <Changes row={row} keyFields={keyFieldsOf(run, row)} />
              </td>
              <td className="number top">{row.row > 0 && number(row.row)}</td>
              <td className="top">{row.source}</td>
              <td className="number top">{row.row > 0 && number(row.line)}</td>
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

/** The key of a row; of a record that was written, the way to its history. */
function Key({ run, row }: { run: RunView; row: LedgerRowView }) {
  const write = run.balance.writes.find((one) => one.write === row.write);
  const words = row.key.join(' · ');
  if (!words) {
    return <span className="soft">no key</span>;
  }
  if (run.planned || !write || !CHANGES.includes(row.outcome)) {
    return words;
  }
  const key = write.keyFields.map((field, part) => `key=${encodeURIComponent(`${field}=${row.key[part] ?? ''}`)}`);
  return (
    <Link to={`/connections/${write.connection}/${encodeURIComponent(write.records)}/history?${key.join('&')}`}>
      {words}
    </Link>
  );
}

/** Whether a row of a held run is written when that is released. */
function LeaveOut({ run, row }: { run: string; row: LedgerRowView }) {
  const leaveOut = useLeaveOut(run);
  const may = useMay('run');
  // what was ticked shows at once, before the query tells that it is under way; then what the service says
  const [said, say] = useState<boolean>();
  const leftOut = said ?? row.leftOut;
  const change = () => {
    say(!leftOut);
    leaveOut.mutate({ rows: String(row.row), leftOut: !leftOut }, { onSettled: () => say(undefined) });
  };
  // a record that the source no longer has is no row that could be left out
  const planned =
    row.row > 0 && (CHANGES.includes(row.outcome) || row.outcome === 'issued' || row.outcome === 'unchanged');
  return (
    planned && (
      <Form.Check
        aria-label={`Write row ${row.row}`}
        checked={!leftOut}
        disabled={!may || said !== undefined}
        onChange={change}
      />
    )
  );
}

function keyFieldsOf(run: RunView, row: LedgerRowView): string[] {
  return run.balance.writes.find((write) => write.write === row.write)?.keyFields ?? run.keyFields;
}

/** The key of what is new or goes stands in front already. */
function Changes({ row, keyFields }: { row: LedgerRowView; keyFields: string[] }) {
  const inserted = row.outcome === 'inserted' || row.outcome === 'issued';
  const deleted = row.outcome === 'deleted';
  const says = (change: LedgerRowView['changes'][number]) =>
    (!inserted && !deleted) || ((change.after ?? change.before) !== undefined && !keyFields.includes(change.field));
  return (
    <div className="raw">
      {row.note && <span className="soft">{row.note}</span>}
      {row.changes.filter(says).map((change) => (
        <span key={change.field}>
          <span className="mono soft">{change.field}</span>{' '}
          {!inserted && <span className="old">{change.before ?? '(empty)'}</span>}
          {!inserted && !deleted && <span className="soft"> → </span>}
          {!deleted && <span className="new">{change.after ?? '(empty)'}</span>}
        </span>
      ))}
    </div>
  );
}
