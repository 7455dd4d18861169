import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api } from '../../api/client';
import type { ConnectionView, Page } from '../../api/client';
import { keys } from '../../api/keys';
import { count, moment } from '../../lib/format';
import { Empty } from '../../ui/Empty';
import { Loaded } from '../../ui/Loaded';
import { PageHead } from '../../ui/PageHead';

export function ConnectionsPage() {
  const connections = useQuery({
    queryKey: keys.connections,
    queryFn: () => api.get<Page<ConnectionView>>('/connections'),
  });
  return (
    <>
      <PageHead
        title="Connections"
        state={connections.data && `${count(connections.data.items.length, 'system')} that jobs can use.`}
      />
      <Loaded query={connections}>
        {(page) =>
          page.items.length === 0 ? (
            <Empty title="No connection is saved yet.">
              Save one with the client: <code>nachlauf connection save FILE</code>
            </Empty>
          ) : (
            <table className="sheet">
              <thead>
                <tr>
                  <th scope="col">Connection</th>
                  <th scope="col">Title</th>
                  <th scope="col">Type</th>
                  <th scope="col">Saved</th>
                  <th scope="col">By</th>
                </tr>
              </thead>
              <tbody>
                {page.items.map((connection) => (
                  <tr key={connection.name}>
                    <th scope="row">
                      <Link className="mono" to={`/connections/${connection.name}`}>
                        {connection.name}
                      </Link>
                    </th>
                    <td>{connection.title}</td>
                    <td>{connection.type}</td>
                    <td className="fixed" title={connection.savedAt}>
                      {moment(connection.savedAt)}
                    </td>
                    <td>{connection.savedBy}</td>
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
