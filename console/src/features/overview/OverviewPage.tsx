import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api } from '../../api/client';
import type { JobView, Page } from '../../api/client';
import { keys } from '../../api/keys';
import { allRejected, outcomeParts } from '../../lib/balance';
import { count, moment, number } from '../../lib/format';
import { runState } from '../../lib/runState';
import { Empty } from '../../ui/Empty';
import { Loaded } from '../../ui/Loaded';
import { PageHead } from '../../ui/PageHead';
import { Pill } from '../../ui/Pill';
import { SplitBar } from '../../ui/SplitBar';

/** The job list with the last run's balance, and above it what waits for a person. */
export function OverviewPage() {
  const jobs = useQuery({
    queryKey: keys.jobs,
    queryFn: () => api.get<Page<JobView>>('/jobs'),
    refetchInterval: 5_000,
  });
  return (
    <>
      <PageHead title="Overview" state={jobs.data && summary(jobs.data.items)} />
      <Loaded query={jobs}>
        {(page) => (page.items.length === 0 ? <FirstSteps /> : <JobsWithBars jobs={page.items} />)}
      </Loaded>
    </>
  );
}

function needsSomebody(job: JobView): boolean {
  return job.draft || (job.lastRun !== undefined && runState(job.lastRun).tone !== 'calm');
}

function summary(jobs: JobView[]): string {
  const waiting = jobs.filter(needsSomebody).length;
  if (jobs.length === 0) {
    return 'Nothing has to be balanced yet.';
  }
  return waiting === 0
    ? `${count(jobs.length, 'job')}. Everything balanced.`
    : `${count(jobs.length, 'job')}, ${number(waiting)} ${waiting === 1 ? 'needs' : 'need'} you.`;
}

function FirstSteps() {
  return (
    <Empty title="No job is saved yet.">
      Save a connection and a job with the client: <code>nachlauf connection save FILE</code>, then{' '}
      <code>nachlauf job save FILE</code>. <code>./demo</code> shows both with example data.
    </Empty>
  );
}

function JobsWithBars({ jobs }: { jobs: JobView[] }) {
  const waiting = jobs.filter(needsSomebody);
  return (
    <>
      {waiting.length > 0 && (
        <div className="needs">
          {waiting.map((job) => (
            <div key={job.name}>
              <span>
                <b>{job.name}</b> {reason(job)}
              </span>
              {job.lastRun && <Link to={`/runs/${job.lastRun.id}`}>Look at run {job.lastRun.id}</Link>}
            </div>
          ))}
        </div>
      )}
      <h2>Jobs</h2>
      <table className="sheet">
        <thead>
          <tr>
            <th scope="col">Job</th>
            <th scope="col" style={{ width: '34%' }}>
              Last run
            </th>
            <th scope="col" className="number">
              Rows
            </th>
            <th scope="col">When</th>
            <th scope="col">State</th>
          </tr>
        </thead>
        <tbody>
          {jobs.map((job) => (
            <JobRow key={job.name} job={job} />
          ))}
        </tbody>
      </table>
      <Totals jobs={jobs} />
    </>
  );
}

/** What all last runs together did; also the key to the bars' colours. */
function Totals({ jobs }: { jobs: JobView[] }) {
  const totals = new Map<string, number>();
  for (const job of jobs) {
    for (const part of job.lastRun ? outcomeParts(job.lastRun.balance) : []) {
      totals.set(part.name, (totals.get(part.name) ?? 0) + part.count);
    }
  }
  return (
    <div className="legend">
      {[...totals]
        .filter(([, rows]) => rows > 0)
        .map(([name, rows]) => (
          <span key={name}>
            <i className={`part-${name}`} />
            {number(rows)} {name}
          </span>
        ))}
    </div>
  );
}

function reason(job: JobView): string {
  const run = job.lastRun;
  if (!run) {
    return 'is a draft with errors.';
  }
  const rejected = allRejected(run.balance);
  switch (run.state) {
    case 'held':
      return `is held: ${run.reasons[0]?.sentence ?? ''}`;
    case 'failed':
      return `failed: ${run.reasons[0]?.sentence ?? ''}`;
    case 'stopped':
      return `was stopped with ${count(run.balance.unreached, 'row')} unreached.`;
    default:
      return run.note || `left ${count(rejected, 'reject')}.`;
  }
}

function JobRow({ job }: { job: JobView }) {
  const run = job.lastRun;
  const state = run && runState(run);
  return (
    <tr>
      <th scope="row">
        <Link className="mono" to={`/jobs/${job.name}`}>
          {job.name}
        </Link>
        <div className="soft">{job.title}</div>
      </th>
      <td>
        {run ? (
          <SplitBar parts={outcomeParts(run.balance)} planned={run.planned} />
        ) : (
          <span className="soft">never ran</span>
        )}
      </td>
      <td className="number">{run && number(run.balance.read)}</td>
      <td className="fixed">{run && <span title={run.createdAt}>{moment(run.createdAt)}</span>}</td>
      <td>
        {run && state && (
          <Link to={`/runs/${run.id}`}>
            <Pill tone={state.tone}>{state.words}</Pill>
          </Link>
        )}
      </td>
    </tr>
  );
}
