import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { Link } from 'react-router';
import { api } from '../../api/client';
import type { WhyLink, WhyView } from '../../api/client';
import { keys } from '../../api/keys';
import { moment } from '../../lib/format';
import { Loaded } from '../../ui/Loaded';

interface Record {
  /** The address of the record type. */
  address: string;
  /** The record's key as a query. */
  query: string;
  /** The fields that runs have written. */
  fields: string[];
}

/** Why a field of a record holds what it holds; asked for one field at a time, for the source is read again. */
export function Why({ address, query, fields }: Record) {
  const [field, setField] = useState('');
  return (
    <div className="panel mb-3">
      <Form.Group controlId="why-field" className="d-flex gap-2 align-items-center">
        <Form.Label className="mb-0 text-nowrap">Why does it hold this value?</Form.Label>
        <Form.Select size="sm" className="w-auto mono" value={field} onChange={(event) => setField(event.target.value)}>
          <option value="">choose a field</option>
          {fields.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </Form.Select>
      </Form.Group>
      {field && <Way address={address} query={query} field={field} />}
    </div>
  );
}

function Way({ address, query, field }: { address: string; query: string; field: string }) {
  const why = useQuery({
    queryKey: keys.why(address, query, field),
    queryFn: () => api.get<WhyView>(`${address}/why?${query}&field=${encodeURIComponent(field)}`),
  });
  return (
    <Loaded query={why}>
      {(found) => (
        <>
          <p className="soft my-2">
            Written by <Link to={`/runs/${found.run}`}>run {found.run}</Link> of {found.job} version {found.jobVersion},
            by {found.by}, {moment(found.at)}, from {found.place}.
          </p>
          <table className="sheet" aria-label="The way of the value">
            <thead>
              <tr>
                <th scope="col" style={{ width: '45%' }}>
                  Value
                </th>
                <th scope="col">Where from</th>
              </tr>
            </thead>
            <tbody>
              <Links link={found.way} depth={0} />
            </tbody>
          </table>
          {!found.same && (
            <p className="bad mt-2 mb-0">
              The ledger says that {found.written ?? '(empty)'} was written. What the job asks elsewhere has changed
              since, or the target has changed the value.
            </p>
          )}
          {found.notes.map((note) => (
            <p key={note} className="soft mt-2 mb-0">
              {note}
            </p>
          ))}
        </>
      )}
    </Loaded>
  );
}

const STEP = 20;

function Links({ link, depth }: { link: WhyLink; depth: number }) {
  return (
    <>
      <tr>
        <td className="top" style={{ paddingLeft: depth * STEP }}>
          <span className="mono soft">{link.name}</span> <b className="wrap">{link.value ?? '(empty)'}</b>
        </td>
        <td className="top">
          <How link={link} />
        </td>
      </tr>
      {link.translated.map((one) => (
        <tr key={`${one.crosswalk} ${one.value} ${one.scope}`}>
          <td className="top" style={{ paddingLeft: (depth + 1) * STEP }}>
            {one.value} <span className="soft">→</span> {one.translation}
          </td>
          <td className="top">
            crosswalk <Link to={`/crosswalks/${one.crosswalk}`}>{one.crosswalk}</Link> version {one.version}
            {one.line !== undefined && `, line ${one.line}`}
            {one.entry !== one.value && (
              <>
                : {one.kind} <span className="mono">{one.entry}</span>
              </>
            )}
          </td>
        </tr>
      ))}
      {link.from.map((from, place) => (
        <Links key={place} link={from} depth={depth + 1} />
      ))}
    </>
  );
}

function How({ link }: { link: WhyLink }) {
  switch (link.kind) {
    case 'cell':
      return <>{link.place}</>;
    case 'fact':
      return <>a fact of the row</>;
    case 'map':
    case 'set':
      return (
        <>
          {link.kind}: <span className="mono wrap">{link.how}</span>
        </>
      );
    default:
      return <>{link.how}</>;
  }
}
