import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { RunView, VerificationView } from '../../api/client';
import { keys } from '../../api/keys';
import { count, number } from '../../lib/format';
import { Loaded } from '../../ui/Loaded';
import { Differences } from './Differences';

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
      <Differences differences={result.differences} label="Records that differ" there="now" />
    </>
  );
}
