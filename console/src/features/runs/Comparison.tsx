import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { RunView, VerificationView } from '../../api/client';
import { keys } from '../../api/keys';
import { count, number } from '../../lib/format';
import { Loaded } from '../../ui/Loaded';

/** What a run has written beside what is there now. */
export function Comparison({ run }: { run: RunView }) {
  const id = String(run.id);
  const found = useQuery({
    queryKey: keys.comparison(id),
    queryFn: () => api.post<VerificationView>(`/runs/${id}/verify`),
    staleTime: 0,
  });
  return (
    <section aria-label="Comparison with what is there now">
      <h2>Compared with what is there now</h2>
      <Loaded query={found}>{(result) => <Result result={result} />}</Loaded>
    </section>
  );
}

function Result({ result }: { result: VerificationView }) {
  return (
    <>
      <p role="status">
        {count(result.compared, 'record')} compared: {number(result.equal)} as the run has left them,{' '}
        {number(result.differs)} changed since, {number(result.gone)} gone.
      </p>
      {result.differences.length > 0 && (
        <table className="sheet" aria-label="Records that differ">
          <thead>
            <tr>
              <th scope="col">Record</th>
              <th scope="col">Now</th>
              <th scope="col">Written → now</th>
              <th scope="col" className="number">
                From row
              </th>
            </tr>
          </thead>
          <tbody>
            {result.differences.map((difference) => (
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
      )}
    </>
  );
}
