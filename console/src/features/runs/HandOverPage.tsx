import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import { Link, useParams } from 'react-router';
import { api } from '../../api/client';
import type { LedgerRowView, Page, RunView } from '../../api/client';
import { keys } from '../../api/keys';
import { busySteps, readingParts, sum, targets, writingParts } from '../../lib/balance';
import { bytes, count, dated, number } from '../../lib/format';
import { isOver, runState } from '../../lib/runState';
import { Findings } from '../../ui/Findings';
import { Loaded } from '../../ui/Loaded';
import { ControlTotals } from './ControlTotals';
import { StepCounts } from './StepCounts';
import { useRejectGroups } from './useRejectGroups';
import { useRun } from './useRun';

/** So many changes are shown as samples, at most half of them new records. */
const SAMPLES = 10;
const REASONS = 12;

/** One run on a sheet of paper: for whoever files it, or has to answer for it. */
export function HandOverPage() {
  const { id = '' } = useParams();
  const run = useRun(id);
  return <Loaded query={run}>{(found) => <Sheet run={found} />}</Loaded>;
}

function Sheet({ run }: { run: RunView }) {
  return (
    <article className="paper">
      <div className="no-print d-flex gap-2 mb-3">
        <Link className="btn btn-outline-secondary" to={`/runs/${run.id}`}>
          Back to the run
        </Link>
        <Button onClick={() => window.print()}>Print, or save as PDF</Button>
      </div>
      <h1>
        Run {run.id} of {run.job}: {runState(run).words}
      </h1>
      {!isOver(run) && <p>The run has not ended: these figures still move.</p>}
      {run.planned && <p>Nothing of this is written: the figures are what is planned.</p>}
      <Facts run={run} />
      <Findings findings={run.reasons} />
      <Findings findings={run.warnings} />
      <Balance run={run} />
      <Rejected run={run} />
      <Samples run={run} />
      <div className="signed">
        <span>Seen by</span>
        <span>Date</span>
      </div>
    </article>
  );
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <tr>
      <th scope="row">{name}</th>
      <td>{children}</td>
    </tr>
  );
}

function Facts({ run }: { run: RunView }) {
  const versions = Object.entries(run.versions).map(([name, version]) => `${name} version ${version}`);
  const parameters = Object.entries(run.parameters).map(([name, value]) => `${name} = ${value}`);
  return (
    <table className="facts" aria-label="Facts">
      <tbody>
        <Fact name="Job">
          {[`${run.job} version ${run.jobVersion}`, ...versions].join(', ')}
          {run.environment && ` in ${run.environment}`}
        </Fact>
        <Fact name="Writes to">{targets(run.balance.writes)}</Fact>
        <Fact name="Started">
          by {run.startedBy}, {dated(run.createdAt)}
          {run.endedAt && `; ended ${dated(run.endedAt)}`}
        </Fact>
        {run.releasedBy && (
          <Fact name="Released">
            by {run.releasedBy}
            {run.releasedAt && `, ${dated(run.releasedAt)}`}
            {run.leftOut > 0 && `; ${count(run.leftOut, 'row')} left out`}
          </Fact>
        )}
        {parameters.length > 0 && <Fact name="Parameters">{parameters.join(', ')}</Fact>}
        {run.files.length === 0 ? (
          <Fact name="Read">{run.source}</Fact>
        ) : (
          run.files.map((file) => (
            <Fact key={`${file.hash} ${file.member}`} name={file.lookedUp ? 'Looked up in' : 'Read'}>
              {file.member}, {bytes(file.size)}
              <div className="mono wrap small">SHA-256 {file.hash}</div>
            </Fact>
          ))
        )}
        {(run.choice.rows ?? run.choice.where) && (
          <Fact name="Only rows">{[run.choice.rows, run.choice.where].filter(Boolean).join(', ')}</Fact>
        )}
        {run.choice.resubmits !== undefined && <Fact name="Sends again">rejects of run {run.choice.resubmits}</Fact>}
        {run.issued.map((file) => (
          <Fact key={`${file.connection} ${file.name}`} name="Handed over">
            {file.name} to {file.connection}, {count(file.rows, 'row')}, {bytes(file.size)}
            <div className="mono wrap small">SHA-256 {file.hash}</div>
          </Fact>
        ))}
        {run.undoes !== undefined && <Fact name="Takes back">run {run.undoes}</Fact>}
        {run.undoneBy !== undefined && <Fact name="Taken back">by run {run.undoneBy}</Fact>}
      </tbody>
    </table>
  );
}

function Balance({ run }: { run: RunView }) {
  const balance = run.balance;
  return (
    <section>
      <h2>Balance</h2>
      <table className="facts" aria-label="Balance">
        <tbody>
          <Fact name="Read">
            {number(balance.read)} = {sum(readingParts(balance, !isOver(run)), number)}
          </Fact>
          {balance.writes.map((write) => (
            <Fact key={write.write} name={write.write}>
              {number(write.taken)} taken = {sum(writingParts(write), number)}
            </Fact>
          ))}
        </tbody>
      </table>
      <StepCounts steps={busySteps(balance)} />
      <ControlTotals totals={run.totals} planned={run.planned} />
      <p className="mb-0">
        {balance.balanced ? 'Every row is accounted for.' : 'The balance does not hold.'}
        {Object.keys(run.changedFields).length > 0 &&
          ` Changed fields: ${Object.entries(run.changedFields)
            .map(([field, times]) => `${field} ${number(times)}`)
            .join(', ')}.`}
      </p>
    </section>
  );
}

function Rejected({ run }: { run: RunView }) {
  const groups = useRejectGroups(run).data?.items ?? [];
  if (groups.length === 0) {
    return null;
  }
  return (
    <section>
      <h2>Rejected, and not closed yet: {count(run.openRejects, 'row')}</h2>
      <table className="sheet" aria-label="Reasons">
        <tbody>
          {groups.slice(0, REASONS).map((group) => (
            <tr key={`${group.code} ${group.field} ${group.byTarget}`}>
              <td className="number" style={{ width: '5rem' }}>
                {number(group.count)}
              </td>
              <td>
                {group.code}
                {group.byTarget && ', by the target'}
              </td>
              <td className="mono">{group.field}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {groups.length > REASONS && <p className="mb-0">and {count(groups.length - REASONS, 'more reason')}</p>}
    </section>
  );
}

function useSamples(run: RunView, outcome: string) {
  return useQuery({
    queryKey: keys.samples(String(run.id), outcome),
    queryFn: () => api.get<Page<LedgerRowView>>(`/runs/${run.id}/ledger?outcome=${outcome}&limit=${SAMPLES}`),
  });
}

function Samples({ run }: { run: RunView }) {
  const updated = useSamples(run, 'updated').data?.items ?? [];
  const deleted = useSamples(run, 'deleted').data?.items ?? [];
  const made = useSamples(run, 'inserted').data?.items ?? [];
  const issued = useSamples(run, 'issued').data?.items ?? [];
  const inserted = [...made, ...issued];
  const changed = [...updated, ...deleted].slice(0, SAMPLES - Math.min(inserted.length, SAMPLES / 2));
  const rows = [...changed, ...inserted].slice(0, SAMPLES);
  if (rows.length === 0) {
    return null;
  }
  return (
    <section>
      <h2>Samples</h2>
      <table className="sheet" aria-label="Samples">
        <thead>
          <tr>
            <th scope="col">Record</th>
            <th scope="col">Outcome</th>
            <th scope="col">Was → is</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, place) => (
            <tr key={place}>
              <td className="mono top">{row.key.join(' · ')}</td>
              <td className="top">{row.outcome}</td>
              <td className="small">
                {row.changes
                  .map(
                    (field) =>
                      `${field.field} ${row.outcome === 'inserted' || row.outcome === 'issued' ? '' : `${field.before ?? '(empty)'} → `}${
                        row.outcome === 'deleted' ? 'removed' : (field.after ?? '(empty)')
                      }`,
                  )
                  .join(', ')}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
