import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api } from '../../api/client';
import type { CrosswalkView, Page } from '../../api/client';
import { keys } from '../../api/keys';
import { count, moment, number } from '../../lib/format';
import { Empty } from '../../ui/Empty';
import { Loaded } from '../../ui/Loaded';
import { PageHead } from '../../ui/PageHead';

/** All crosswalks. */
export function CrosswalksPage() {
  const crosswalks = useQuery({
    queryKey: keys.crosswalks,
    queryFn: () => api.get<Page<CrosswalkView>>('/crosswalks'),
  });
  return (
    <>
      <PageHead
        title="Crosswalks"
        state={crosswalks.data && `${count(crosswalks.data.items.length, 'table')} that translate values.`}
      />
      <Loaded query={crosswalks}>
        {(page) =>
          page.items.length === 0 ? (
            <Empty title="No crosswalk is saved yet.">
              Save one with the client: <code>nachlauf crosswalk save FILE</code>
            </Empty>
          ) : (
            <table className="sheet" aria-label="Crosswalks">
              <thead>
                <tr>
                  <th scope="col">Crosswalk</th>
                  <th scope="col">Title</th>
                  <th scope="col" className="number">
                    Entries
                  </th>
                  <th scope="col" className="number">
                    Version
                  </th>
                  <th scope="col">Saved</th>
                  <th scope="col">By</th>
                </tr>
              </thead>
              <tbody>
                {page.items.map((crosswalk) => (
                  <tr key={crosswalk.name}>
                    <th scope="row">
                      <Link className="mono" to={`/crosswalks/${crosswalk.name}`}>
                        {crosswalk.name}
                      </Link>
                    </th>
                    <td>{crosswalk.title}</td>
                    <td className="number">{number(crosswalk.entries)}</td>
                    <td className="number">{crosswalk.version}</td>
                    <td className="fixed" title={crosswalk.savedAt}>
                      {moment(crosswalk.savedAt)}
                    </td>
                    <td>{crosswalk.savedBy}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )
        }
      </Loaded>
    </>
  );
}
