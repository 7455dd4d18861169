import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { api } from '../../api/client';
import type { CrosswalkView } from '../../api/client';
import { keys } from '../../api/keys';
import { count, moment } from '../../lib/format';
import { Loaded } from '../../ui/Loaded';
import { PageHead } from '../../ui/PageHead';
import { DocumentText } from './DocumentText';
import { TryValue } from './TryValue';

/** One crosswalk: what it makes of a value, and its text. */
export function CrosswalkPage() {
  const { name = '' } = useParams();
  const crosswalk = useQuery({
    queryKey: keys.crosswalk(name),
    queryFn: () => api.get<CrosswalkView>(`/crosswalks/${name}`),
  });
  return (
    <Loaded query={crosswalk}>
      {(found) => (
        <>
          <PageHead
            crumb={<Link to="/crosswalks">crosswalks</Link>}
            title={
              <span className="mono" style={{ fontSize: 18 }}>
                {found.name}
              </span>
            }
            state={`${found.title} · ${count(found.entries, 'entry', 'entries')} · version ${found.version}, saved ${moment(found.savedAt)} by ${found.savedBy}`}
          />
          <TryValue crosswalk={found} />
          <h2>Text</h2>
          <DocumentText text={found.document} />
        </>
      )}
    </Loaded>
  );
}
