import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { RejectGroup, RunView } from '../../api/client';
import { number } from '../../lib/format';
import { useRejectGroups } from './useRejectGroups';
import type { GroupedBy } from './useRejectGroups';

const SHOWN = 8;
const NAMED = 6;

/** How many rows of a run were rejected for which reason, as fine as one likes. */
export function RejectReasons({ run }: { run: RunView }) {
  const [by, setBy] = useState<GroupedBy>('field');
  const [all, setAll] = useState(false);
  const groups = useRejectGroups(run, by).data?.items ?? [];
  if (groups.length === 0) {
    return null;
  }
  const shown = all ? groups : groups.slice(0, SHOWN);
  return (
    <details className="mb-2">
      <summary className="soft">
        {groups.slice(0, NAMED).map(inWords).join(' · ')}
        {groups.length > NAMED && ' …'}
      </summary>
      <Form.Group controlId="reasons-by" className="d-flex gap-2 align-items-center my-2">
        <Form.Label className="mb-0 text-nowrap">Reasons by</Form.Label>
        <Form.Select
          size="sm"
          className="w-auto"
          value={by}
          onChange={(event) => setBy(event.target.value as GroupedBy)}
        >
          <option value="code">code</option>
          <option value="field">field</option>
          <option value="value">value</option>
        </Form.Select>
      </Form.Group>
      <table className="sheet" aria-label="Reasons">
        <thead>
          <tr>
            <th scope="col" className="number" style={{ width: '6rem' }}>
              Rows
            </th>
            <th scope="col">Code</th>
            {by !== 'code' && <th scope="col">Field</th>}
            {by === 'value' && <th scope="col">Value</th>}
          </tr>
        </thead>
        <tbody>
          {shown.map((group) => (
            <tr key={`${group.code} ${group.field} ${group.value} ${group.byTarget}`}>
              <td className="number">{number(group.count)}</td>
              <td>
                <span className="code-word">{group.code}</span>
                {group.byTarget && <span className="soft"> by the target</span>}
              </td>
              {by !== 'code' && <td className="mono">{group.field}</td>}
              {by === 'value' && <td className="mono wrap">{group.value}</td>}
            </tr>
          ))}
        </tbody>
      </table>
      {groups.length > shown.length && (
        <button type="button" className="btn btn-link btn-sm px-0" onClick={() => setAll(true)}>
          {number(groups.length - shown.length)} more
        </button>
      )}
    </details>
  );
}

function inWords(group: RejectGroup) {
  const where = [group.field, group.value].filter(Boolean).join(': ');
  return `${number(group.count)} ${group.code}${where && ` (${where})`}${group.byTarget ? ' by the target' : ''}`;
}
