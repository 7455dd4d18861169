import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { Page, RunLogLine, RunView } from '../../api/client';
import { keys } from '../../api/keys';
import { moment } from '../../lib/format';
import { Loaded } from '../../ui/Loaded';

/** What has happened to a run, in order. */
export function RunLog({ run }: { run: RunView }) {
  const log = useQuery({
    queryKey: keys.log(String(run.id), run.state),
    queryFn: () => api.get<Page<RunLogLine>>(`/runs/${run.id}/log`),
  });
  return (
    <Loaded query={log}>
      {(page) =>
        page.items.length === 0 ? (
          <p className="soft">Nothing is known of the run; it is older than its log.</p>
        ) : (
          <table className="sheet" aria-label="Log">
            <thead>
              <tr>
                <th scope="col">When</th>
                <th scope="col" style={{ width: '85%' }}>
                  What happened
                </th>
              </tr>
            </thead>
            <tbody>
              {page.items.map((line, place) => (
                <tr key={place}>
                  <td className="fixed top" title={line.at}>
                    {moment(line.at)}
                  </td>
                  <td className="top">{line.text}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )
      }
    </Loaded>
  );
}
