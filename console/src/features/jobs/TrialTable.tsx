import type { JobTrial, TrialRow } from '../../api/client';
import { columns, remarks, triedWrites } from './trial';
import type { TriedCell, TriedWrite } from './trial';

const SHOWN = 4;

/** What the job makes of a few rows: a table for each write, wrong values in place with their reason. */
export function TrialTable({ trial, wrong }: { trial: JobTrial; wrong: boolean }) {
  const rows = trial.rows.filter((row) => !wrong || row.outcome === 'rejected').slice(0, SHOWN);
  if (rows.length === 0) {
    return <p className="soft">{wrong ? 'None of these rows is rejected.' : 'The source has no rows.'}</p>;
  }
  return (
    <>
      {triedWrites(rows).map((write) => (
        <WriteTable key={write.write} write={write} rows={rows} />
      ))}
      <ul className="remarks">
        {rows.flatMap((row, at) =>
          remarks(row).map((remark, index) => (
            <li key={`${at} ${index}`}>
              <span title={row.place}>Row {row.row}</span> {remark}
            </li>
          )),
        )}
      </ul>
    </>
  );
}

function WriteTable({ write, rows }: { write: TriedWrite; rows: TrialRow[] }) {
  return (
    <table className="sheet trial" aria-label={`What ${write.write} gets`}>
      <thead>
        <tr>
          <th>{write.write === write.records ? write.records : `${write.write} (${write.records})`}</th>
          {rows.map((row, at) => (
            <th key={at} title={row.place}>
              row {row.row}
              {row.outcome !== 'passed' && <span className={row.outcome}> {row.outcome}</span>}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {write.fields.map((field) => (
          <tr key={field.name}>
            <th scope="row" className="mono">
              {field.name}
              {field.key && <span className="soft"> key</span>}
            </th>
            {field.cells.map((cell, at) => (
              <td key={at} className={cell.is}>
                {words(cell)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function words(cell: TriedCell): string {
  switch (cell.is) {
    case 'value':
      return cell.text;
    case 'wrong':
      return cell.reason;
    case 'later':
      return 'found when written';
    case 'empty':
      return '–';
    case 'none':
      return '';
  }
}

/** The source's columns, each with a value; a click puts the name where the cursor stands. */
export function ColumnChips({ trial, pick }: { trial: JobTrial; pick: (name: string) => void }) {
  return (
    <div className="chips" role="group" aria-label="Columns of the source">
      {columns(trial).map(({ name, sample }) => (
        <button
          key={name}
          type="button"
          className="chip"
          title={`Put ${name} into the text`}
          onClick={() => pick(name)}
        >
          <span className="mono">{name}</span> <span className="soft">{sample}</span>
        </button>
      ))}
    </div>
  );
}
