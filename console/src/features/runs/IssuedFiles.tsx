import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { IssuedFileView, Page, RunView } from '../../api/client';
import { keys } from '../../api/keys';
import { bytes, number } from '../../lib/format';
import { isOver } from '../../lib/runState';
import { useMay } from '../../lib/session';
import { ConfirmExport } from './ConfirmExport';

/** The files that a run hands over, or would: made of its ledger, so that they can be looked at before and after. */
export function IssuedFiles({ run }: { run: RunView }) {
  const may = useMay('run');
  const handsOver = run.balance.issued > 0 || run.issued.length > 0;
  const known = may && handsOver && (isOver(run) || run.state === 'held');
  const files = useQuery({
    queryKey: keys.issued(String(run.id), run.state),
    queryFn: () => api.get<Page<IssuedFileView>>(`/runs/${run.id}/issued`),
    enabled: known,
  });
  if (!known || !files.data) {
    return null;
  }
  return (
    <>
      <Files run={run} files={files.data.items} />
      {!run.planned && isOver(run) && run.balance.issued > 0 && <ConfirmExport run={run} />}
    </>
  );
}

function Files({ run, files }: { run: RunView; files: IssuedFileView[] }) {
  return (
    <table className="sheet mt-3" aria-label="Files">
      <thead>
        <tr>
          <th scope="col">File</th>
          <th scope="col">Goes to</th>
          <th scope="col" className="number">
            Rows
          </th>
          <th scope="col" className="number">
            Size
          </th>
          <th scope="col">State</th>
          <th scope="col" />
        </tr>
      </thead>
      <tbody>
        {files.map((file) => (
          <tr key={file.name}>
            <th scope="row">{file.name}</th>
            <td>{file.connection}</td>
            <td className="number">{number(file.rows)}</td>
            <td className="number">{bytes(file.size)}</td>
            <td>{file.delivered ? 'delivered' : 'not delivered'}</td>
            <td>
              <a href={`/api/v1/runs/${run.id}/issued/file?name=${encodeURIComponent(file.name)}`}>Download</a>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
