import { useQuery } from '@tanstack/react-query';
import Form from 'react-bootstrap/Form';
import { useSearchParams } from 'react-router';
import { api } from '../../api/client';
import type { ConnectionView, KeyAdviceView, Page, ProfileView, RecordTypeView } from '../../api/client';
import { keys } from '../../api/keys';
import { number } from '../../lib/format';
import { Loaded } from '../../ui/Loaded';
import { SplitBar } from '../../ui/SplitBar';
import { request } from './request';
import type { Chosen } from './request';

/** Which fields would find their records in a target, best first, with the worst examples. */
export function Keys({ source }: { source: Chosen }) {
  const [address, setAddress] = useSearchParams();
  const connections = useQuery({
    queryKey: keys.connections,
    queryFn: () => api.get<Page<ConnectionView>>('/connections'),
  });
  const targets = (connections.data?.items ?? []).filter((connection) => connection.abilities.includes('writing'));
  const target = address.get('target') ?? targets[0]?.name ?? '';
  const records = address.get('into') ?? '';
  const choose = (name: string, value: string) => {
    const next = new URLSearchParams(address);
    next.set(name, value);
    setAddress(next);
  };
  return (
    <>
      <div className="d-flex gap-3 mt-3 align-items-end">
        <Form.Group controlId="target">
          <Form.Label>Compare with</Form.Label>
          <Form.Select size="sm" value={target} onChange={(event) => choose('target', event.target.value)}>
            {targets.map((one) => (
              <option key={one.name}>{one.name}</option>
            ))}
          </Form.Select>
        </Form.Group>
        {target && <RecordTypes target={target} chosen={records} choose={(value) => choose('into', value)} />}
      </div>
      {records ? (
        <Advice source={source} target={target} records={records} />
      ) : (
        <p className="soft mt-3">Choose the records that a job is to write.</p>
      )}
    </>
  );
}

interface RecordTypesProps {
  target: string;
  chosen: string;
  choose: (records: string) => void;
}

function RecordTypes({ target, chosen, choose }: RecordTypesProps) {
  const types = useQuery({
    queryKey: keys.recordsOf(target),
    queryFn: () => api.get<Page<RecordTypeView>>(`/connections/${target}/records`),
  });
  return (
    <Form.Group controlId="records">
      <Form.Label>Records</Form.Label>
      <Form.Select size="sm" value={chosen} onChange={(event) => choose(event.target.value)}>
        <option value="">–</option>
        {(types.data?.items ?? []).map((type) => (
          <option key={type.name}>{type.name}</option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}

function Advice({ source, target, records }: { source: Chosen; target: string; records: string }) {
  const profile = useQuery({
    queryKey: keys.keyAdvice(source, target, records),
    queryFn: () =>
      api.post<ProfileView>('/sources/profile', {
        source: request(source, 1),
        targetConnection: target,
        targetRecords: records,
      }),
    retry: false,
    staleTime: Infinity,
  });
  return (
    <Loaded query={profile}>
      {(view) =>
        view.advice.length === 0 ? (
          <p className="soft mt-3">No column holds values of what {records} keeps unique, and no name is the same.</p>
        ) : (
          <table className="sheet mt-3">
            <thead>
              <tr>
                <th scope="col">Score</th>
                <th scope="col">Source</th>
                <th scope="col">Target</th>
                <th scope="col" style={{ width: '26%' }}>
                  A load with this key would
                </th>
                <th scope="col" className="number">
                  Blank
                </th>
                <th scope="col" className="number">
                  Repeated
                </th>
                <th scope="col">Worst examples</th>
              </tr>
            </thead>
            <tbody>
              {view.advice.map((advice) => (
                <Candidate key={advice.target.join()} advice={advice} rows={view.rows - view.broken} />
              ))}
            </tbody>
          </table>
        )
      }
    </Loaded>
  );
}

function Candidate({ advice, rows }: { advice: KeyAdviceView; rows: number }) {
  const parts = [
    { name: 'inserted', label: 'insert', count: advice.insert },
    { name: 'updated', label: 'find', count: advice.update },
    { name: 'rejected', label: 'reject', count: advice.ambiguous + advice.unusable },
  ].filter((part) => part.count > 0);
  return (
    <tr>
      <td className="top number">{advice.score.toFixed(2)}</td>
      <th scope="row" className="mono top">
        {advice.source.join(' + ')}
        {advice.formula && <div className="soft">{advice.formula}</div>}
      </th>
      <td className="mono top">
        {advice.target.join(' + ')}
        <div>
          {advice.keptUnique ? (
            <span className="mark mark-key">kept unique</span>
          ) : (
            <span className="mark mark-required">not kept unique</span>
          )}
        </div>
      </td>
      <td className="top">
        <SplitBar parts={parts} />
        {parts.map((part) => `${part.label} ${number(part.count)}`).join(' · ')}
      </td>
      <td className="number top">{number(rows - advice.key.filled)}</td>
      <td className="number top">{number(advice.key.repeated)}</td>
      <td className="top">
        {advice.key.examples.length > 0 && (
          <div>
            repeated: {advice.key.examples.map((example) => `${example.key} (${number(example.count)})`).join(', ')}
          </div>
        )}
        {advice.severalFound.length > 0 && <div>several found: {advice.severalFound.join(', ')}</div>}
        {advice.notFound.length > 0 && advice.update > 0 && <div>not found: {advice.notFound.join(', ')}</div>}
      </td>
    </tr>
  );
}
