import type { VerificationView } from '../../api/client';
import { number } from '../../lib/format';

/**
 * What a run has written or issued, beside what was found of it, field by field.
 *
 * @param there what the second value is called: that of now, or of an export
 */
export function Differences({
  differences,
  label,
  there,
}: {
  differences: VerificationView['differences'];
  label: string;
  there: string;
}) {
  if (differences.length === 0) {
    return null;
  }
  return (
    <table className="sheet" aria-label={label}>
      <thead>
        <tr>
          <th scope="col">Record</th>
          <th scope="col">Found</th>
          <th scope="col">Written → {there}</th>
          <th scope="col" className="number">
            From row
          </th>
        </tr>
      </thead>
      <tbody>
        {differences.map((difference) => (
          <tr key={`${difference.write} ${difference.row} ${difference.key.join(' ')}`}>
            <th scope="row" className="mono fixed top">
              {difference.key.join(' · ')}
            </th>
            <td className="fixed top">{difference.found}</td>
            <td className="top">
              <div className="raw">
                {difference.fields.map((field) => (
                  <span key={field.field}>
                    <span className="mono soft">{field.field}</span>{' '}
                    <span className="old">{field.written ?? '(empty)'}</span> <span className="soft">→</span>{' '}
                    <span className="new">{field.now ?? '(empty)'}</span>
                  </span>
                ))}
              </div>
            </td>
            <td className="number top">{number(difference.row)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
