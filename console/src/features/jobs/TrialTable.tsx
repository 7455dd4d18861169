import { useState } from 'react';
import type { JobTrial, TrialRow } from '../../api/client';
import { number } from '../../lib/format';
import { FieldMarks } from '../../ui/FieldMarks';
import { MapFilter } from './MapFilter';
import { chosen, columns, isMapped, remarks, triedWrites } from './trial';
import type { Choice, TriedCell, TriedField, TriedWrite } from './trial';

const SHOWN = 3;

/** The maps, and what they make of a few rows: a table for each write, wrong values in place with their reason. */
export function TrialTable({ trial, wrong }: { trial: JobTrial; wrong: boolean }) {
  const [choice, setChoice] = useState<Choice>('mapped');
  const [text, setText] = useState('');
  const rows = trial.rows.filter((row) => !wrong || row.outcome === 'rejected').slice(0, SHOWN);
  return (
    <>
      <MapFilter choice={choice} text={text} choose={setChoice} search={setText} />
      {rows.length === 0 && (
        <p className="soft">{wrong ? 'None of these rows is rejected.' : 'The source has no rows.'}</p>
      )}
      {triedWrites(trial.maps, rows).map((write) => (
        <WriteTable key={write.write} write={write} rows={rows} shown={chosen(write.fields, choice, text)} />
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

function WriteTable({ write, rows, shown }: { write: TriedWrite; rows: TrialRow[]; shown: TriedField[] }) {
  const mapped = write.fields.filter(isMapped).length;
  return (
    <table className="sheet trial" aria-label={`What ${write.write} gets`}>
      <thead>
        <tr>
          <th scope="col">
            {write.write === write.records ? write.records : `${write.write} (${write.records})`}
            <span className="soft fw-normal">
              {' '}
              {number(mapped)} of {number(write.fields.length)} fields
            </span>
          </th>
          <th scope="col">Formula</th>
          {rows.map((row, at) => (
            <th scope="col" key={at} title={row.place}>
              row {row.row}
              {row.outcome !== 'passed' && <span className={row.outcome}> {row.outcome}</span>}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {shown.map((line) => (
          <tr key={line.field.name}>
            <th scope="row">
              <span className="mono" title={line.field.help}>
                {line.field.name}
              </span>{' '}
              <span className="soft fw-normal">{line.field.type}</span>
              <div>
                {line.key && <span className="mark mark-key">found by</span>}
                <FieldMarks field={line.field} />
              </div>
            </th>
            <td className={`formula ${isMapped(line) ? '' : 'off'}`}>
              {line.formula}
              {line.rule !== '' && line.rule !== 'always' && <span className="mark">{line.rule}</span>}
            </td>
            {line.cells.map((cell, at) => (
              <td key={at} className={cell.is}>
                {words(cell)}
              </td>
            ))}
          </tr>
        ))}
        {shown.length === 0 && (
          <tr>
            <td colSpan={rows.length + 2} className="soft">
              No field of this kind.
            </td>
          </tr>
        )}
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
