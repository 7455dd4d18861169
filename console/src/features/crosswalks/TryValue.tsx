import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { api } from '../../api/client';
import type { CrosswalkView, TranslationView } from '../../api/client';
import { keys } from '../../api/keys';
import { number } from '../../lib/format';
import { useSettled } from '../../lib/useSettled';
import { SHOWN_LINES } from './DocumentText';

const PAUSE = 300;

/** What a crosswalk makes of a value, with the entry that says so. */
export function TryValue({ crosswalk }: { crosswalk: CrosswalkView }) {
  const [value, setValue] = useState('');
  const [scope, setScope] = useState('');
  const settled = useSettled({ value, scope }, PAUSE);
  const translation = useQuery({
    queryKey: keys.translation(crosswalk.name, crosswalk.version, settled.value, settled.scope),
    queryFn: () => {
      const of = settled.scope === '' ? '' : `&scope=${encodeURIComponent(settled.scope)}`;
      return api.get<TranslationView>(
        `/crosswalks/${crosswalk.name}/translation?value=${encodeURIComponent(settled.value)}${of}`,
      );
    },
    enabled: settled.value !== '',
    retry: false,
  });
  return (
    <>
      <h2>Try a value</h2>
      <div className="two">
        <Form.Group controlId="try-value">
          <Form.Label>Value</Form.Label>
          <Form.Control size="sm" value={value} onChange={(event) => setValue(event.target.value)} />
        </Form.Group>
        <Form.Group controlId="try-scope">
          <Form.Label>Scope, if there is one</Form.Label>
          <Form.Control size="sm" value={scope} onChange={(event) => setScope(event.target.value)} />
        </Form.Group>
      </div>
      <p role="status" className="mt-2">
        {settled.value !== '' && translation.error && <span className="bad">{translation.error.message}</span>}
        {settled.value !== '' && translation.data && <Translation found={translation.data} />}
      </p>
    </>
  );
}

function Translation({ found }: { found: TranslationView }) {
  return (
    <>
      <span className="mono">{found.value}</span> becomes <b className="mono">{found.translation}</b>{' '}
      <span className="soft">
        by {found.kind}: {found.entry}
        {found.entryScope !== '' && ` in the table of ${found.entryScope}`}
        {found.line && found.line <= SHOWN_LINES && (
          <>
            {' '}
            (<a href={`#line-${found.line}`}>line {found.line}</a>)
          </>
        )}
        {found.line && found.line > SHOWN_LINES && ` (line ${number(found.line)})`}
      </span>
    </>
  );
}
