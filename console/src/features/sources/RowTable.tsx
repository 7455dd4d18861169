import type { SourceFieldView, SourceRowView, SourceView } from '../../api/client';
import { number } from '../../lib/format';

const SURE = 0.9;

/** The first rows under their names and kinds; what can't be read is marked in place with its reason. */
export function RowTable({ view, typed }: { view: SourceView; typed: boolean }) {
  return (
    <div className="wide" tabIndex={0} role="region" aria-label="First rows">
      <table className="sheet">
        <thead>
          <tr>
            <th scope="col" className="number">
              Row
            </th>
            {view.fields.map((field) => (
              <th
                scope="col"
                key={field.name}
                title={field.evidence}
                className={isNumber(field) ? 'number' : undefined}
              >
                <span className="mono">{field.name}</span>
                <br />
                <Reading field={field} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {view.rows.map((row) => (
            <Row key={row.row} row={row} fields={view.fields} typed={typed} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function isNumber(field: SourceFieldView): boolean {
  return field.kind === 'integer' || field.kind === 'decimal';
}

function Reading({ field }: { field: SourceFieldView }) {
  if (field.question) {
    return (
      <span className="mark mark-required" title={field.question}>
        to be said
      </span>
    );
  }
  const detail = field.pattern ?? field.locale;
  return (
    <span className={field.confidence < SURE && field.confidence > 0 ? 'mark mark-required' : 'mark'}>
      {field.kind}
      {detail && ` ${detail}`}
    </span>
  );
}

interface RowProps {
  row: SourceRowView;
  fields: SourceFieldView[];
  typed: boolean;
}

function Row({ row, fields, typed }: RowProps) {
  return (
    <>
      <tr>
        <th scope="row" className="number" title={row.place}>
          {number(row.row)}
        </th>
        {fields.map((field, index) => {
          const wrong = row.wrong.find((problem) => problem.field === field.name);
          const raw = row.raw[index];
          const value = typed && !wrong && row.values.length > 0 ? row.values[index] : raw;
          return (
            <td
              key={field.name}
              className={`cell ${wrong ? 'bad' : ''} ${typed && !wrong && isNumber(field) ? 'number' : ''}`}
            >
              {value ?? <span className="soft">–</span>}
            </td>
          );
        })}
      </tr>
      {row.wrong.map((problem, index) => (
        <tr key={index}>
          <td />
          <td className="bad" colSpan={fields.length}>
            {problem.at ?? row.place}: {problem.field && <span className="mono">{problem.field}: </span>}
            {problem.sentence} <span className="code-word">{problem.code}</span>
          </td>
        </tr>
      ))}
    </>
  );
}
