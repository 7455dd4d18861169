import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link, useParams, useSearchParams } from 'react-router';
import { api, Refused } from '../../api/client';
import type { CountedRecords, FoundRecords, RecordsView } from '../../api/client';
import { keys } from '../../api/keys';
import { number } from '../../lib/format';
import { useMay } from '../../lib/session';
import { Empty } from '../../ui/Empty';
import { Failed } from '../../ui/Failed';
import { Findings } from '../../ui/Findings';
import { Loaded } from '../../ui/Loaded';
import { Loading } from '../../ui/Loading';
import { PageHead } from '../../ui/PageHead';
import { CorrectDialog } from './CorrectDialog';
import { address, asked, keyOf, query, SHOWN } from './question';
import type { Question } from './question';

/** Finds records of a type by a formula, and corrects single ones. */
export function RecordsPage() {
  const { name = '', records = '' } = useParams();
  const type = useQuery({
    queryKey: keys.fieldsOf(name, records),
    queryFn: () => api.get<RecordsView>(`/connections/${name}/records/${encodeURIComponent(records)}`),
  });
  return <Loaded query={type}>{(found) => <Body connection={name} type={found} />}</Loaded>;
}

function Body({ connection, type }: { connection: string; type: RecordsView }) {
  const [search, setSearch] = useSearchParams();
  const question = asked(search);
  const path = `/connections/${connection}/records/${encodeURIComponent(type.name)}`;
  const found = useQuery({
    queryKey: keys.found(connection, type.name, question),
    queryFn: () => api.get<FoundRecords>(`${path}/found?${query(question).toString()}`),
  });
  const counted = useQuery({
    queryKey: keys.counted(connection, type.name, question.where),
    queryFn: () =>
      api.get<CountedRecords>(`${path}/count?${new URLSearchParams(question.where ? { where: question.where } : {})}`),
    enabled: found.data?.more ?? false,
  });
  const mayBuild = useMay('build') && type.writable && keyOf(type).length > 0;
  const [correcting, setCorrecting] = useState<Record<string, string> | 'new'>();
  const problems = found.error instanceof Refused ? found.error.problems : [];
  return (
    <>
      <PageHead
        crumb={
          <>
            <Link to={`/connections/${connection}`}>{connection}</Link> ›{' '}
            <Link to={`/connections/${connection}/${encodeURIComponent(type.name)}`}>{type.name}</Link>
          </>
        }
        title={
          <>
            Records of <span className="mono">{type.name}</span>
          </>
        }
        state={found.data && state(found.data, counted.data?.count)}
        buttons={
          mayBuild && (
            <Button variant="outline-secondary" onClick={() => setCorrecting('new')}>
              New record
            </Button>
          )
        }
      />
      <Ask key={search.toString()} type={type} question={question} ask={(next) => setSearch(address(next))} />
      {found.isPending && <Loading rows={6} />}
      {problems.length > 0 && <Findings findings={problems} />}
      {found.error && problems.length === 0 && <Failed error={found.error} again={() => void found.refetch()} />}
      {found.data?.note && <p className="soft">{found.data.note}</p>}
      {found.data?.records.length === 0 && (
        <Empty title={question.where ? 'No record meets this formula.' : 'There are no records yet.'}>
          {question.where && 'It is computed as in jobs: a comparison with an empty field is never true.'}
        </Empty>
      )}
      {found.data && found.data.records.length > 0 && (
        <Found
          connection={connection}
          type={type}
          found={found.data}
          correct={mayBuild ? (record) => setCorrecting(record) : undefined}
        />
      )}
      {correcting && (
        <CorrectDialog
          connection={connection}
          type={type}
          keyFields={keyOf(type)}
          before={correcting === 'new' ? undefined : correcting}
          leave={() => setCorrecting(undefined)}
        />
      )}
    </>
  );
}

function state(found: FoundRecords, count: number | undefined): string {
  if (!found.more) {
    return found.records.length === 1 ? '1 record.' : `${number(found.records.length)} records.`;
  }
  return count === undefined ? `The first ${SHOWN} records.` : `The first ${SHOWN} of ${number(count)} records.`;
}

interface AskProps {
  type: RecordsView;
  question: Question;
  ask: (question: Question) => void;
}

function Ask({ type, question, ask }: AskProps) {
  const [next, setNext] = useState(question);
  return (
    <Form
      className="d-flex flex-wrap gap-2 align-items-end mb-3"
      onSubmit={(event) => {
        event.preventDefault();
        ask(next);
      }}
    >
      <Form.Group controlId="where" className="flex-grow-1">
        <Form.Label>Records for which this formula is true</Form.Label>
        <Form.Control
          size="sm"
          className="mono"
          value={next.where}
          placeholder="all"
          onChange={(event) => setNext({ ...next, where: event.target.value })}
        />
      </Form.Group>
      <Form.Group controlId="sort">
        <Form.Label>In the order of</Form.Label>
        <Form.Select
          size="sm"
          className="mono"
          value={next.sort}
          onChange={(event) => setNext({ ...next, sort: event.target.value })}
        >
          <option value="">as they come</option>
          {type.fields
            .filter((field) => !field.sensitive)
            .map((field) => (
              <option key={field.name}>{field.name}</option>
            ))}
        </Form.Select>
      </Form.Group>
      <Form.Check
        id="down"
        className="mb-1"
        label="greatest first"
        checked={next.descending}
        disabled={!next.sort}
        onChange={(event) => setNext({ ...next, descending: event.target.checked })}
      />
      <Button type="submit" size="sm">
        Find
      </Button>
    </Form>
  );
}

interface FoundProps {
  connection: string;
  type: RecordsView;
  found: FoundRecords;
  correct?: (record: Record<string, string>) => void;
}

function Found({ connection, type, found, correct }: FoundProps) {
  const key = keyOf(type);
  const sensitive = new Set(type.fields.filter((field) => field.sensitive).map((field) => field.name));
  return (
    <div className="wide">
      <table className="sheet" aria-label="Records">
        <thead>
          <tr>
            {key.length > 0 && (
              <th scope="col">
                <span className="visually-hidden">What can be done</span>
              </th>
            )}
            {found.fields.map((field) => (
              <th key={field} scope="col" className="mono">
                {field}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {found.records.map((record, place) => {
            const values = Object.fromEntries(found.fields.map((field, at) => [field, record[at] ?? '']));
            return (
              <tr key={place}>
                {key.length > 0 && (
                  <td className="fixed">
                    <Link to={historyOf(connection, type.name, key, values)}>History</Link>
                    {correct && (
                      <Button
                        variant="link"
                        size="sm"
                        className="p-0 ms-2 align-baseline text-decoration-none"
                        aria-label={`Correct ${key.map((field) => values[field]).join(' · ')}`}
                        onClick={() => correct(open(values, sensitive))}
                      >
                        Correct
                      </Button>
                    )}
                  </td>
                )}
                {found.fields.map((field) => (
                  <td key={field} className="mono fixed">
                    {values[field]}
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** A masked value is no value to begin with. */
function open(values: Record<string, string>, sensitive: Set<string>): Record<string, string> {
  return Object.fromEntries(Object.entries(values).filter(([field]) => !sensitive.has(field)));
}

function historyOf(connection: string, records: string, key: string[], values: Record<string, string>): string {
  const parts = key.map((field) => `key=${encodeURIComponent(`${field}=${values[field]}`)}`).join('&');
  return `/connections/${connection}/${encodeURIComponent(records)}/history?${parts}`;
}
