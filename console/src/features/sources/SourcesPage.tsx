import { Link, useSearchParams } from 'react-router';
import { PageHead } from '../../ui/PageHead';
import { FirstRows } from './FirstRows';
import { Keys } from './Keys';
import { Profile } from './Profile';
import { SourceChoice } from './SourceChoice';
import { chosen, isWhole } from './request';

const PARTS = [
  { part: 'rows', name: 'First rows' },
  { part: 'profile', name: 'Profile' },
  { part: 'keys', name: 'Keys' },
];

/** Look first, then map: what a file or a record type looks like and holds. */
export function SourcesPage() {
  const [address] = useSearchParams();
  const source = chosen(address);
  if (!isWhole(source)) {
    return <SourceChoice connection={source.connection} />;
  }
  const part = address.get('part') ?? 'rows';
  return (
    <>
      <PageHead
        crumb={
          <Link to={source.connection && !source.records ? `/sources?connection=${source.connection}` : '/sources'}>
            sources
          </Link>
        }
        title={
          <span className="mono" style={{ fontSize: 18 }}>
            {source.records ?? source.file}
          </span>
        }
        state={source.connection ? `of the connection ${source.connection}` : 'uploaded'}
      />
      <nav className="tabs" aria-label="Parts">
        {PARTS.map((one) => {
          const to = new URLSearchParams(address);
          to.set('part', one.part);
          return (
            <Link
              key={one.part}
              to={`?${to.toString()}`}
              className={one.part === part ? 'active' : ''}
              aria-current={one.part === part ? 'page' : undefined}
            >
              {one.name}
            </Link>
          );
        })}
      </nav>
      {part === 'rows' && <FirstRows source={source} />}
      {part === 'profile' && <Profile source={source} />}
      {part === 'keys' && <Keys source={source} />}
    </>
  );
}
