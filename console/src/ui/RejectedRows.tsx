import type { ReactNode } from 'react';
import { bySourceRow, isAtFault, reasons } from './sourceRows';
import type { Reject } from './sourceRows';

const SHOWN_KEYS = 3;
const SHOWN_REASONS = 3;

interface Rows<R extends Reject> {
  rejects: R[];
  /** What can be done about a row, by what was made of it and refused. */
  actions?: (made: R[]) => ReactNode;
}

/** Rows that were refused: place, reasons and the raw cells, with the cell at fault marked; one line per source row. */
export function RejectedRows<R extends Reject>({ rejects, actions }: Rows<R>) {
  return (
    <table className="sheet" aria-label="Rejected rows">
      <thead>
        <tr>
          <th scope="col">Key</th>
          <th scope="col" style={{ width: '38%' }}>
            Reason
          </th>
          <th scope="col">Raw row</th>
          <th scope="col" style={{ width: '16%' }}>
            Place
          </th>
          {actions && (
            <th scope="col" style={{ width: '14%' }}>
              Decision
            </th>
          )}
        </tr>
      </thead>
      <tbody>
        {bySourceRow(rejects).map((made) => (
          <SourceRow key={made[0]?.id} made={made} action={actions?.(made)} />
        ))}
      </tbody>
    </table>
  );
}

/** A row of the source with whatever was made of it and refused. */
function SourceRow({ made, action }: { made: Reject[]; action: ReactNode }) {
  const first = made[0];
  if (!first) {
    return null;
  }
  const keys = [...new Set(made.map((reject) => reject.key).filter(Boolean))];
  const problems = reasons(made);
  return (
    <tr>
      <th scope="row" className="mono fixed top">
        {keys.length === 0 && <span className="soft">no key</span>}
        {keys.slice(0, SHOWN_KEYS).map((key) => (
          <div key={key}>{key}</div>
        ))}
        {keys.length > SHOWN_KEYS && <div className="soft">and {keys.length - SHOWN_KEYS} more</div>}
      </th>
      <td className="top">
        {first.byTarget && <div className="soft small">Nothing stood against it until the target refused it:</div>}
        {problems.slice(0, SHOWN_REASONS).map((problem, index) => (
          <Reason key={index} problem={problem} />
        ))}
        {problems.length > SHOWN_REASONS && (
          <details>
            <summary>{problems.length - SHOWN_REASONS} more reasons</summary>
            {problems.slice(SHOWN_REASONS).map((problem, index) => (
              <Reason key={index} problem={problem} />
            ))}
          </details>
        )}
      </td>
      <td className="top">
        <div className="raw mono">
          {first.raw.map((cell, index) => (
            <span key={index} className={isAtFault(made, index) ? 'bad' : undefined}>
              <small>{first.header[index] ?? 'beyond the header'}</small>
              {cell ?? <span className="soft">–</span>}
            </span>
          ))}
        </div>
      </td>
      <td className="top">{first.place}</td>
      {action !== undefined && <td className="top">{action}</td>}
    </tr>
  );
}

/** What is wrong, where exactly, and what helps. */
function Reason({ problem }: { problem: Reject['problems'][number] }) {
  return (
    <div className="mb-1">
      {problem.field && <span className="mono">{problem.field}: </span>}
      {problem.sentence} <span className="code-word">{problem.code}</span>
      <div className="soft small">{[problem.at, problem.remedy].filter(Boolean).join(' · ')}</div>
    </div>
  );
}
