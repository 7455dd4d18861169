import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { KeptLine, KeptView } from '../../api/client';
import { keys } from '../../api/keys';
import { bytes, count, moment, number } from '../../lib/format';
import { Loaded } from '../../ui/Loaded';
import { PageHead } from '../../ui/PageHead';

const NAMES: Record<string, { name: string; about: string }> = {
  files: { name: 'Files that runs have read', about: 'from the end of the last run that read them' },
  uploads: { name: 'Files that no run has read', about: 'from their last use' },
  ledgers: { name: 'Runs with the lines of their ledgers', about: 'from their end; the balance stays for ever' },
  rejects: { name: 'Rejects', about: '' },
  scratch: {
    name: 'Scratch folders of looks',
    about: 'they end with the look; this is for what a killed process left',
  },
};

/** What the installation keeps, how much room that takes, and until when. */
export function KeptPage() {
  const kept = useQuery({ queryKey: keys.kept, queryFn: () => api.get<KeptView>('/kept') });
  return (
    <>
      <PageHead title="Kept" state="What is kept, and until when." />
      <Loaded query={kept}>
        {(view) => (
          <>
            <table className="sheet">
              <thead>
                <tr>
                  <th scope="col">What</th>
                  <th scope="col" className="number">
                    How many
                  </th>
                  <th scope="col" className="number">
                    Room
                  </th>
                  <th scope="col">Oldest</th>
                  <th scope="col">Kept for</th>
                </tr>
              </thead>
              <tbody>
                {view.lines.map((line) => (
                  <Line key={line.what} line={line} />
                ))}
              </tbody>
            </table>
            <p className="soft mt-3">
              Held runs, runs with open rejects and runs with rows in doubt keep all that is theirs, however old they
              are. The variables <code>NACHLAUF_KEEP_FILES</code>, <code>NACHLAUF_KEEP_LEDGER</code> and{' '}
              <code>NACHLAUF_KEEP_UPLOADS</code> of the service set these times.
            </p>
          </>
        )}
      </Loaded>
    </>
  );
}

function Line({ line }: { line: KeptLine }) {
  const names = NAMES[line.what] ?? { name: line.what, about: '' };
  return (
    <tr>
      <th scope="row">{names.name}</th>
      <td className="number">{number(line.count)}</td>
      <td className="number">{bytes(line.bytes)}</td>
      <td className="fixed">{line.oldest ? moment(line.oldest) : ''}</td>
      <td>
        {line.keptForDays === undefined ? 'as long as their run' : count(line.keptForDays, 'day')}
        <div className="soft">{names.about}</div>
      </td>
    </tr>
  );
}
