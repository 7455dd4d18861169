import type { RunView } from '../../api/client';
import { bytes } from '../../lib/format';
import { resultsAddress } from './results';

/** What a run has read, as it is kept: opens for whoever wants to know exactly. */
export function FilesRead({ run }: { run: RunView }) {
  if (run.files.length === 0) {
    return null;
  }
  return (
    <details className="mt-2">
      <summary className="soft">What was read, as it is kept</summary>
      <table className="sheet" aria-label="What was read">
        <thead>
          <tr>
            <th scope="col">File</th>
            <th scope="col">Format</th>
            <th scope="col" className="number">
              Size
            </th>
            <th scope="col">SHA-256</th>
            <th scope="col">With results</th>
          </tr>
        </thead>
        <tbody>
          {run.files.map((file) => (
            <tr key={`${file.hash} ${file.member}`}>
              <th scope="row">
                {file.member}
                {file.member !== file.name && <span className="soft"> in {file.name}</span>}
                {file.lookedUp && <span className="soft">, looked up in</span>}
              </th>
              <td>{file.format || 'not looked at yet'}</td>
              <td className="number">{bytes(file.size)}</td>
              <td className="mono wrap">{file.hash}</td>
              <td>{!file.lookedUp && <Results address={resultsAddress(run, file.member)} />}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

function Results({ address }: { address: string | undefined }) {
  return address === undefined ? null : <a href={address}>Download</a>;
}
