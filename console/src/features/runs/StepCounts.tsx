import type { StepCountView } from '../../api/client';
import { number } from '../../lib/format';

/** What the steps did with the rows, between reading and writing; each line adds up. */
export function StepCounts({ steps }: { steps: StepCountView[] }) {
  if (steps.length === 0) {
    return null;
  }
  return (
    <details className="mt-2" open>
      <summary className="soft">Steps between reading and writing</summary>
      <table className="table table-sm mb-0 mt-1">
        <thead>
          <tr>
            <th>step</th>
            <th className="text-end">in</th>
            <th className="text-end">made</th>
            <th className="text-end">out</th>
            <th className="text-end">skipped</th>
            <th className="text-end">rejected</th>
            <th className="text-end">merged</th>
          </tr>
        </thead>
        <tbody>
          {steps.map((step, place) => (
            <tr key={place}>
              <td>{step.step}</td>
              <td className="text-end">{number(step.in)}</td>
              <td className="text-end">{step.made === 0 ? '' : number(step.made)}</td>
              <td className="text-end">{number(step.out)}</td>
              <td className="text-end">{step.skipped === 0 ? '' : number(step.skipped)}</td>
              <td className="text-end">{step.rejected === 0 ? '' : number(step.rejected)}</td>
              <td className="text-end">{step.merged === 0 ? '' : number(step.merged)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
