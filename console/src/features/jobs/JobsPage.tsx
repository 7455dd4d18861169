import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api } from '../../api/client';
import type { JobView, Page } from '../../api/client';
import { keys } from '../../api/keys';
import { count, moment } from '../../lib/format';
import { Empty } from '../../ui/Empty';
import { Loaded } from '../../ui/Loaded';
import { PageHead } from '../../ui/PageHead';
import { Pill } from '../../ui/Pill';

export function JobsPage() {
  const jobs = useQuery({ queryKey: keys.jobs, queryFn: () => api.get<Page<JobView>>('/jobs') });
  return (
    <>
      <PageHead
        title="Jobs"
        state={jobs.data && `${count(jobs.data.items.length, 'job')}, each with all its versions.`}
      />
      <Loaded query={jobs}>
        {(page) =>
          page.items.length === 0 ? (
            <Empty title="No job is saved yet.">
              Save one with the client: <code>nachlauf job save FILE</code>
            </Empty>
          ) : (
            <table className="sheet">
              <thead>
                <tr>
                  <th scope="col">Job</th>
                  <th scope="col">Title</th>
                  <th scope="col" className="number">
                    Version
                  </th>
                  <th scope="col">Saved</th>
                  <th scope="col">By</th>
                  <th scope="col">State</th>
                </tr>
              </thead>
              <tbody>
                {page.items.map((job) => (
                  <tr key={job.name}>
                    <th scope="row">
                      <Link className="mono" to={`/jobs/${job.name}`}>
                        {job.name}
                      </Link>
                    </th>
                    <td>{job.title}</td>
                    <td className="number">{job.version}</td>
                    <td className="fixed" title={job.savedAt}>
                      {moment(job.savedAt)}
                    </td>
                    <td>{job.savedBy}</td>
                    <td>{job.draft ? <Pill tone="needs">draft with errors</Pill> : <Pill tone="calm">sound</Pill>}</td>
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
