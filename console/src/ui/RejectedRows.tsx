interface Row {
  id: number;
  place: string;
  row: number;
  key: string;
  header: string[];
  raw: (string | null)[];
  problems: { code: string; sentence: string; remedy: string; field?: string; value?: string; at?: string }[];
}

/** Rows that were refused: place, reasons and the raw cells, with the cell at fault marked. */
export function RejectedRows({ rejects }: { rejects: Row[] }) {
  return (
    <table className="sheet" aria-label="Rejected rows">
      <thead>
        <tr>
          <th scope="col">Key</th>
          <th scope="col" style={{ width: '38%' }}>
            Reason
          </th>
          <th scope="col">Raw row</th>
          <th scope="col" style={{ width: '16%' }}>
            Place
          </th>
        </tr>
      </thead>
      <tbody>
        {rejects.map((reject) => (
          <tr key={reject.id}>
            <th scope="row" className="mono fixed top">
              {reject.key || <span className="soft">no key</span>}
            </th>
            <td className="top">
              {reject.problems.map((problem, index) => (
                <div key={index} title={[problem.at, problem.remedy].filter(Boolean).join('\n')}>
                  {problem.field && <span className="mono">{problem.field}: </span>}
                  {problem.sentence} <span className="code-word">{problem.code}</span>
                </div>
              ))}
            </td>
            <td className="top">
              <div className="raw mono">
                {reject.raw.map((cell, index) => (
                  <span
                    key={index}
                    title={reject.header[index] ?? 'beyond the header'}
                    className={isAtFault(reject, index) ? 'bad' : undefined}
                  >
                    {cell ?? <span className="soft">–</span>}
                  </span>
                ))}
              </div>
            </td>
            <td className="top">{reject.place}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** By the name of the column, or by a value that a step changed in nothing but its case. */
function isAtFault(reject: Row, index: number): boolean {
  const cell = reject.raw[index]?.toLowerCase();
  return reject.problems.some(
    (problem) =>
      problem.field?.split(' + ').includes(reject.header[index] ?? '') ||
      (cell !== undefined && problem.value?.toLowerCase() === cell),
  );
}
