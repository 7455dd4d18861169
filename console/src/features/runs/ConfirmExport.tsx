import { useState } from 'react';
import { useMutation } from '@tanstack/react-query';
import { Form } from 'react-bootstrap';
import { api } from '../../api/client';
import type { ConfirmationView, FileView, RunView } from '../../api/client';
import { count, number } from '../../lib/format';
import { Differences } from './Differences';

/** What a run has handed over, compared with an export of the system that has it now. */
export function ConfirmExport({ run }: { run: RunView }) {
  const [foundBy, setFoundBy] = useState<string[]>([]);
  const asks = run.keyFields.length === 0;
  const confirm = useMutation({
    mutationFn: async (file: File) => {
      const kept = await api.upload<FileView>(`/files?name=${encodeURIComponent(file.name)}`, file);
      const key = foundBy.map((field) => `&key=${encodeURIComponent(field)}`).join('');
      return api.post<ConfirmationView>(
        `/runs/${run.id}/confirm?file=${kept.hash}&name=${encodeURIComponent(kept.name)}${key}`,
      );
    },
  });
  const waits = confirm.isPending || (asks && foundBy.length === 0);
  return (
    <section className="mt-2" aria-label="Comparison with an export">
      {asks && (
        <fieldset className="mb-2">
          <legend className="fs-6">Which fields tell the rows apart? The job names no key.</legend>
          {run.fields.map((field) => (
            <Form.Check
              key={field}
              inline
              type="checkbox"
              id={`found-by-${field}`}
              label={field}
              checked={foundBy.includes(field)}
              onChange={(event) =>
                setFoundBy(event.target.checked ? [...foundBy, field] : foundBy.filter((other) => other !== field))
              }
            />
          ))}
        </fieldset>
      )}
      <label className={`btn btn-outline-secondary mb-0${waits ? ' disabled' : ''}`}>
        Compare with an export
        <input
          type="file"
          className="visually-hidden"
          disabled={waits}
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = '';
            if (file) {
              confirm.mutate(file);
            }
          }}
        />
      </label>
      {confirm.error && (
        <p className="bad mt-2 mb-0" role="alert">
          {confirm.error.message}
        </p>
      )}
      {confirm.data && (
        <>
          <p className="mt-2" role="status">
            {count(confirm.data.issued, 'row')} issued: {number(confirm.data.confirmed)} confirmed by{' '}
            {confirm.data.export}, {number(confirm.data.differs)} different, {number(confirm.data.missing)} missing
            there; {count(confirm.data.others, 'other row')} in it.
          </p>
          <Differences
            differences={confirm.data.differences}
            label="Rows that differ or are missing"
            there="in the export"
          />
        </>
      )}
    </section>
  );
}
