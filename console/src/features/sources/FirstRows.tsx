import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { Link, useSearchParams } from 'react-router';
import { api } from '../../api/client';
import type { SourceView } from '../../api/client';
import { keys } from '../../api/keys';
import { bytes, count } from '../../lib/format';
import { Findings } from '../../ui/Findings';
import { Loaded } from '../../ui/Loaded';
import { OptionTable } from './OptionTable';
import { RowTable } from './RowTable';
import { request } from './request';
import type { Chosen } from './request';

const ROWS = 50;

/** What was detected, each option with its evidence and open to correction, and the first rows as written and as read. */
export function FirstRows({ source }: { source: Chosen }) {
  const look = useQuery({
    queryKey: keys.source(source),
    queryFn: () => api.post<SourceView>('/sources/preview', request(source, ROWS)),
    placeholderData: keepPreviousData,
    retry: false,
  });
  return (
    <>
      {look.error && Object.keys(source.options).length > 0 && <TakeBack />}
      <Loaded query={look} rows={10}>
        {(view) => <Looked view={view} />}
      </Loaded>
    </>
  );
}

/** A way back from an option that can't be. */
function TakeBack() {
  const [address] = useSearchParams();
  const detected = new URLSearchParams([...address].filter(([name]) => !name.startsWith('o.')));
  return (
    <p className="mt-2">
      <Link to={`?${detected.toString()}`}>Take the stated options back</Link>
    </p>
  );
}

/** What the rows leave open; a person has to say it. */
function Questions({ view }: { view: SourceView }) {
  const open = view.fields.filter((field) => field.question !== '');
  return open.length === 0 ? null : (
    <div className="needs">
      {open.map((field) => (
        <div key={field.name}>
          <span>
            <span className="mono">{field.name}</span>: {field.question} Say it in the job, under fields.
          </span>
        </div>
      ))}
    </div>
  );
}

function Looked({ view }: { view: SourceView }) {
  const [typed, setTyped] = useState(true);
  const size = view.files.reduce((sum, file) => sum + file.size, 0);
  return (
    <>
      <p className="mt-2">
        {view.whole ? 'All ' : 'The first '}
        {count(view.sampled, 'row')} were looked at{size > 0 && ` of ${bytes(size)}`}.
        {view.files.length > 1 && ` It holds ${view.files.map((file) => file.member).join(', ')}.`}
        {view.lacks.length > 0 && ` ${view.lacks.join(' ')}`}
      </p>
      <Findings findings={view.failures} />
      <OptionTable view={view} />
      <Questions view={view} />
      <div className="d-flex justify-content-between align-items-end">
        <h2>The first {count(view.rows.length, 'row')}</h2>
        <Form.Check
          type="switch"
          id="as-read"
          label="as they are read"
          checked={typed}
          onChange={(event) => setTyped(event.target.checked)}
        />
      </div>
      <RowTable view={view} typed={typed} />
      <h2>In a job</h2>
      <pre className="panel mono">{view.read}</pre>
    </>
  );
}
