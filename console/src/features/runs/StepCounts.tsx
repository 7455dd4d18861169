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
      <table className="sheet mt-1" aria-label="Steps">
        <thead>
          <tr>
            <th scope="col">step</th>
            <th scope="col" className="number">
              in
            </th>
            <th scope="col" className="number">
              made
            </th>
            <th scope="col" className="number">
              out
            </th>
            <th scope="col" className="number">
              skipped
            </th>
            <th scope="col" className="number">
              rejected
            </th>
            <th scope="col" className="number">
              merged
            </th>
          </tr>
        </thead>
        <tbody>
          {steps.map((step, place) => (
            <tr key={place}>
              <td>{step.step}</td>
              <td className="number">{number(step.in)}</td>
              <td className="number">{step.made === 0 ? '' : number(step.made)}</td>
              <td className="number">{number(step.out)}</td>
              <td className="number">{step.skipped === 0 ? '' : number(step.skipped)}</td>
              <td className="number">{step.rejected === 0 ? '' : number(step.rejected)}</td>
              <td className="number">{step.merged === 0 ? '' : number(step.merged)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
