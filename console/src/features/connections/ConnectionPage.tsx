import { useMutation, useQuery } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import { Link, useParams } from 'react-router';
import { api } from '../../api/client';
import type { ConnectionTest, ConnectionView, Page, RecordTypeView } from '../../api/client';
import { keys } from '../../api/keys';
import { number } from '../../lib/format';
import { Findings } from '../../ui/Findings';
import { Loaded } from '../../ui/Loaded';
import { PageHead } from '../../ui/PageHead';
import { FieldTable } from './FieldTable';

/** One system: whether it is reached, its record types, and what a chosen one demands. */
export function ConnectionPage() {
  const { name = '', records } = useParams();
  const connection = useQuery({
    queryKey: keys.connection(name),
    queryFn: () => api.get<ConnectionView>(`/connections/${name}`),
  });
  const test = useMutation({ mutationFn: () => api.post<ConnectionTest>(`/connections/${name}/test`) });
  return (
    <Loaded query={connection}>
      {(found) => (
        <>
          <PageHead
            crumb={<Link to="/connections">connections</Link>}
            title={
              <span className="mono" style={{ fontSize: 18 }}>
                {found.name}
              </span>
            }
            state={`${found.title} · ${found.type}`}
            buttons={
              <Button variant="outline-secondary" disabled={test.isPending} onClick={() => test.mutate()}>
                Test
              </Button>
            }
          />
          <div role="status">
            {test.data?.reachable && (
              <p>
                Reached {test.data.system}
                {test.data.signedInAs && `, signed in as ${test.data.signedInAs}`}
                {rights(test.data)}.
              </p>
            )}
            {test.data && <Findings findings={test.data.problems} />}
          </div>
          {found.abilities.includes('files') && (
            <p>
              <Link to={`/sources?connection=${found.name}`}>Browse its files</Link>
            </p>
          )}
          {found.abilities.includes('records') ? (
            <Records name={name} chosen={records} />
          ) : (
            <pre className="panel mono">{found.document}</pre>
          )}
        </>
      )}
    </Loaded>
  );
}

/** What the account may do; those that tell people neither read nor write. */
function rights(test: ConnectionTest) {
  return test.canWrite ? '; can read and write' : test.canRead ? '; can read' : '';
}

function Records({ name, chosen }: { name: string; chosen: string | undefined }) {
  const types = useQuery({
    queryKey: keys.recordsOf(name),
    queryFn: () => api.get<Page<RecordTypeView>>(`/connections/${name}/records`),
  });
  return (
    <Loaded query={types}>
      {(page) => {
        const shown = chosen ?? page.items.find((type) => type.writable)?.name;
        return (
          <>
            <nav className="tabs" aria-label="Record types">
              {page.items.map((type) => (
                <Link
                  key={type.name}
                  to={`/connections/${name}/${encodeURIComponent(type.name)}`}
                  className={type.name === shown ? 'active' : ''}
                  title={type.label}
                  aria-current={type.name === shown ? 'page' : undefined}
                >
                  <span className="mono">{type.name}</span>
                  {type.estimatedRecords !== undefined && ` about ${number(type.estimatedRecords)}`}
                </Link>
              ))}
            </nav>
            {shown ? (
              <FieldTable connection={name} records={shown} />
            ) : (
              <p className="soft">It holds no record types.</p>
            )}
          </>
        );
      }}
    </Loaded>
  );
}
