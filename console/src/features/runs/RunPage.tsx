import { useState } from 'react';
import { Link, NavLink, useParams } from 'react-router';
import type { RunView } from '../../api/client';
import { allRejected, busySteps, changed, readingParts, sum, targets } from '../../lib/balance';
import { bytes, count, duration, moment, number, pace } from '../../lib/format';
import { isAsAsked, isOver, runState } from '../../lib/runState';
import { Findings } from '../../ui/Findings';
import { Loaded } from '../../ui/Loaded';
import { PageHead } from '../../ui/PageHead';
import { Pill } from '../../ui/Pill';
import { SplitBar } from '../../ui/SplitBar';
import { Comparison } from './Comparison';
import { ControlTotals } from './ControlTotals';
import { Decisions } from './Decisions';
import { GapTable } from './GapTable';
import { LedgerTable } from './LedgerTable';
import { RejectTable } from './RejectTable';
import { RunLog } from './RunLog';
import { StepCounts } from './StepCounts';
import { read, resultsAddress } from './results';
import { useRejectGroups } from './useRejectGroups';
import { useRun } from './useRun';
import { WriteBar } from './WriteBar';
import { FilesRead } from './FilesRead';
import { Told } from './Told';
import { IssuedFiles } from './IssuedFiles';

/** One run: live while it moves, then its balance, changes, rejects and rows. */
export function RunPage() {
  const { id = '', part = 'changes' } = useParams();
  const run = useRun(id);
  return <Loaded query={run}>{(found) => <RunBody run={found} part={part} />}</Loaded>;
}

function RunBody({ run, part }: { run: RunView; part: string }) {
  const state = runState(run);
  const [compared, setCompared] = useState(false);
  return (
    <>
      <PageHead
        crumb={
          <>
            <Link to={`/jobs/${run.job}`}>{run.job}</Link> › runs
          </>
        }
        title={
          <>
            Run {run.id} <Pill tone={state.tone}>{state.words}</Pill>
          </>
        }
        state={<Facts run={run} />}
        buttons={
          <>
            {isOver(run) && (
              <Link
                className="btn btn-outline-secondary"
                to={`/runs/${run.id}/hand-over`}
                title="A page to print and file"
              >
                Hand over
              </Link>
            )}
            <Results run={run} />
            <Decisions run={run} verify={() => setCompared(true)} />
          </>
        }
      />
      <Findings findings={run.reasons.filter((reason) => !isAsAsked(reason))} />
      <Findings findings={run.warnings} />
      <Meaning run={run} />
      {run.note && <div className="needs">{<div>{run.note}</div>}</div>}
      <Balance run={run} />
      {run.putBack?.note && (
        <p className={run.putBack.state === 'failed' ? 'bad mt-2' : 'soft mt-2'}>{run.putBack.note}</p>
      )}
      <IssuedFiles run={run} />
      <Told run={run} />
      <FilesRead run={run} />
      {compared && <Comparison run={run} />}
      <nav className="tabs" aria-label="Parts of the run">
        <NavLink to={`/runs/${run.id}`} end className={({ isActive }) => (isActive ? 'active' : '')}>
          {run.balance.issued > 0 ? `Issued ${number(run.balance.issued)}` : `Changes ${number(changed(run.balance))}`}
        </NavLink>
        <NavLink to={`/runs/${run.id}/rejects`}>Rejects {number(allRejected(run.balance))}</NavLink>
        <NavLink to={`/runs/${run.id}/skipped`}>Skipped {number(run.balance.skipped)}</NavLink>
        <NavLink to={`/runs/${run.id}/rows`}>All rows</NavLink>
        <GapTab run={run} />
        <NavLink to={`/runs/${run.id}/log`}>Log</NavLink>
      </nav>
      <Part run={run} part={part} />
    </>
  );
}

/** The one file that was read, with what became of its rows; several files are named below the balance. */
function Results({ run }: { run: RunView }) {
  const address = resultsAddress(run);
  return address === undefined || read(run).length !== 1 ? null : (
    <a
      className="btn btn-outline-secondary"
      href={address}
      title="The file that was read, with what became of each row"
    >
      Results
    </a>
  );
}

/** What is said of a run beside its balance: what it is for, and what became of that. */
function Meaning({ run }: { run: RunView }) {
  return (
    <>
      {run.mode === 'dry-run' && <p>A dry run: these are the changes that a run would make now. Nothing is written.</p>}
      {run.mode === 'rehearse' && (
        <p>
          A rehearsal: everything is sent to the target and taken back, so these are the changes that it would take now.
          Nothing is written.
        </p>
      )}
      {run.undoes !== undefined && (
        <p>
          Takes back what <Link to={`/runs/${run.undoes}`}>run {run.undoes}</Link> has written.
        </p>
      )}
      {run.choice.resubmits !== undefined && (
        <p>
          Sends the rejects of <Link to={`/runs/${run.choice.resubmits}/rejects`}>run {run.choice.resubmits}</Link>{' '}
          again.
        </p>
      )}
      {run.undoneBy !== undefined && (
        <p>
          Taken back by <Link to={`/runs/${run.undoneBy}`}>run {run.undoneBy}</Link>.
        </p>
      )}
      {run.heldUntil && (
        <div className="needs">
          <div>
            <span>
              {run.planned
                ? 'Everything is planned and nothing is written. Untick what is not to be written; then write the rest, or discard the run.'
                : run.reasons.some((reason) => reason.code === 'first-rows-written')
                  ? 'The first rows are written. Look at them, then write the others, or discard the run.'
                  : 'The run waits for a decision.'}
            </span>
            <span className="soft text-nowrap">discarded by itself {moment(run.heldUntil)}</span>
          </div>
        </div>
      )}
      {run.leftOut > 0 && <p>{count(run.leftOut, 'row')} left out.</p>}
    </>
  );
}

/** The way to values without a translation, where some row was rejected for one. */
function GapTab({ run }: { run: RunView }) {
  const groups = useRejectGroups(run);
  const lacking = groups.data?.items.some((group) => group.code === 'no-translation') ?? false;
  return lacking ? <NavLink to={`/runs/${run.id}/gaps`}>Missing translations</NavLink> : null;
}

function Facts({ run }: { run: RunView }) {
  const took = duration(run.startedAt, run.endedAt);
  return (
    <>
      <Source run={run} /> → {targets(run.balance.writes)} · version {run.jobVersion}
      {run.environment && ` in ${run.environment}`} · started by {run.startedBy}{' '}
      <span title={run.createdAt}>{moment(run.createdAt)}</span>
      {run.releasedBy && ` · released by ${run.releasedBy}`}
      {took && ` · took ${took}`}
      {run.choice.rows && ` · only rows ${run.choice.rows}`}
      {run.choice.where && (
        <>
          {' '}
          · only rows where <span className="mono">{run.choice.where}</span>
        </>
      )}
    </>
  );
}

/** What was read, in a few words. */
function Source({ run }: { run: RunView }) {
  const size = run.files.filter((file) => !file.lookedUp).reduce((total, file) => total + file.size, 0);
  const lookedUp = [...new Set(run.files.filter((file) => file.lookedUp).map((file) => file.name))];
  return (
    <>
      {run.source}
      {size > 0 && ` (${bytes(size)})`}
      {lookedUp.length > 0 && `, looked up in ${lookedUp.join(', ')}`}
    </>
  );
}

/** What is done before the first row is written. */
const PREPARING: Record<string, string | undefined> = {
  fetching: 'fetching what the run reads',
  surveying: 'looking at the rows',
};

function Balance({ run }: { run: RunView }) {
  const balance = run.balance;
  const preparing = PREPARING[run.phase];
  const reading = readingParts(balance, !isOver(run));
  return (
    <div className="panel">
      {/* the figures move four times a second; who listens is told what changes */}
      <p className="visually-hidden" role="status">
        Run {run.id}: {runState(run).words} {run.phase}
      </p>
      <div className="two">
        <div>
          <b>Read</b>{' '}
          <span className="soft">
            {preparing
              ? `${preparing}: ${count(run.surveyed, 'row')} so far`
              : `${count(balance.read, 'row')} = ${sum(reading, number)}`}
            {run.pace && ` · ${pace(run.pace)}`}
          </span>
          <div className="mt-2">
            <SplitBar big legend parts={reading} />
          </div>
        </div>
        <div>
          {balance.writes.map((write) => (
            <WriteBar key={write.write} write={write} planned={run.planned} />
          ))}
        </div>
      </div>
      <StepCounts steps={busySteps(balance)} />
      <ControlTotals totals={run.totals} planned={run.planned} />
      {!balance.balanced && isOver(run) && (
        <p className="bad mt-2 mb-0">The balance does not hold: this is a defect of Nachlauf, please report it.</p>
      )}
      {Object.keys(run.changedFields).length > 0 && (
        <p className="soft mt-2 mb-0">
          Changed:{' '}
          {Object.entries(run.changedFields)
            .sort((a, b) => b[1] - a[1])
            .map(([field, times]) => `${field} ${number(times)}`)
            .join(', ')}
          .
        </p>
      )}
    </div>
  );
}

function Part({ run, part }: { run: RunView; part: string }) {
  switch (part) {
    case 'rejects':
      return <RejectTable run={run} />;
    case 'skipped':
      return <LedgerTable run={run} outcomes={['skipped']} />;
    case 'gaps':
      return <GapTable run={run} />;
    case 'log':
      return <RunLog run={run} />;
    case 'rows':
      return <LedgerTable run={run} outcomes={['']} />;
    default:
      return changed(run.balance) + run.balance.issued === 0 ? (
        <p className="soft">No record was changed{isOver(run) ? '.' : ' so far.'}</p>
      ) : (
        <LedgerTable run={run} outcomes={['updated', 'inserted', 'deleted', 'issued']} />
      );
  }
}
