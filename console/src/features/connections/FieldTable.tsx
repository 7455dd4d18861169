import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api } from '../../api/client';
import type { RecordsView } from '../../api/client';
import { keys } from '../../api/keys';
import { FieldMarks } from '../../ui/FieldMarks';
import { Loaded } from '../../ui/Loaded';

/** What a record type demands, field by field, with marks. */
export function FieldTable({ connection, records }: { connection: string; records: string }) {
  const fields = useQuery({
    queryKey: keys.fieldsOf(connection, records),
    queryFn: () => api.get<RecordsView>(`/connections/${connection}/records/${encodeURIComponent(records)}`),
  });
  return (
    <Loaded query={fields} rows={10}>
      {(view) => (
        <>
          <p className="mt-2">
            <Link to={`/sources?connection=${connection}&records=${encodeURIComponent(records)}&part=profile`}>
              What these records hold
            </Link>
            {' · '}
            <Link to={`/connections/${connection}/${encodeURIComponent(records)}/found`}>Find records</Link>
          </p>
          <p className="soft">
            Can serve as an external key:{' '}
            {[...new Set(view.uniqueKeys.map((key) => key.join(' + ')))].join('; ') || 'nothing'}.
            {!view.writable && ' The account may not write these records.'}
          </p>
          <table className="sheet">
            <thead>
              <tr>
                <th scope="col">Field</th>
                <th scope="col">Marks</th>
                <th scope="col">Kind</th>
                <th scope="col">Type</th>
                <th scope="col">Refers to</th>
              </tr>
            </thead>
            <tbody>
              {view.fields.map((field) => (
                <tr key={field.name}>
                  <th scope="row">
                    <span className="mono">{field.name}</span>
                    {field.label && <div className="soft fw-normal">{field.label}</div>}
                  </th>
                  <td>
                    <FieldMarks field={field} />
                    {field.help && <div className="soft">{field.help}</div>}
                  </td>
                  <td>{field.kind}</td>
                  <td className="mono">{field.type}</td>
                  <td className="mono">{field.refersTo}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </Loaded>
  );
}
