import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { useNavigate } from 'react-router';
import { api, Refused } from '../../api/client';
import type { FieldView, RecordsView, RunView } from '../../api/client';
import { useEnvironmentName } from '../../lib/environment';
import { Findings } from '../../ui/Findings';
import { useSure } from '../../ui/useSure';
import { changes } from './question';

interface Choice {
  connection: string;
  type: RecordsView;
  /** The fields by which the record is known. */
  keyFields: string[];
  /** What the record holds, without what is kept from those who look; undefined for a new one. */
  before?: Record<string, string>;
  leave: () => void;
}

/** Corrects a record, or makes a new one, by a run of its own. */
export function CorrectDialog({ connection, type, keyFields, before, leave }: Choice) {
  const navigate = useNavigate();
  const [values, setValues] = useState<Record<string, string>>(before ?? {});
  const key = Object.fromEntries(keyFields.map((field) => [field, values[field] ?? '']));
  const others = Object.fromEntries(Object.entries(values).filter(([field]) => !keyFields.includes(field)));
  const changed = changes(before ?? {}, others);
  const set = useMutation({
    mutationFn: () =>
      api.post<RunView>(`/connections/${connection}/records/${encodeURIComponent(type.name)}/set`, {
        key,
        values: changed,
      }),
    onSuccess: (run) => void navigate(`/runs/${run.id}`),
  });
  const { sure, again } = useSure(useEnvironmentName());
  const incomplete = keyFields.some((field) => !key[field]) || Object.keys(changed).length === 0;
  return (
    <Modal show onHide={leave} aria-labelledby="correct-title" scrollable>
      <Modal.Header closeButton>
        <Modal.Title id="correct-title" as="h2" className="m-0">
          {before ? 'Correct' : 'A new record in'}{' '}
          <span className="mono">{before ? Object.values(key).join(' · ') : type.name}</span>
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {set.error && (
          <div role="alert">
            <p className="bad">{set.error.message}</p>
            {set.error instanceof Refused && <Findings findings={set.error.problems} />}
          </div>
        )}
        <Form
          id="correct"
          onSubmit={(event) => {
            event.preventDefault();
            set.mutate();
          }}
        >
          {type.fields
            .filter((field) => !field.readOnly && (keyFields.includes(field.name) || !field.primaryKey))
            .map((field) => (
              <Field
                key={field.name}
                field={field}
                value={values[field.name] ?? ''}
                fixed={before !== undefined && (field.fixed || keyFields.includes(field.name))}
                set={(value) => setValues({ ...values, [field.name]: value })}
              />
            ))}
        </Form>
        {again}
      </Modal.Body>
      <Modal.Footer>
        <span className="soft me-auto">
          A run of its own, with all checks. {before ? 'Only what you change is written.' : ''}
        </span>
        <Button variant="outline-secondary" onClick={leave}>
          Not now
        </Button>
        <Button type="submit" form="correct" disabled={incomplete || !sure || set.isPending}>
          {before ? 'Correct the record' : 'Make the record'}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}

interface Input {
  field: FieldView;
  value: string;
  fixed: boolean;
  set: (value: string) => void;
}

function Field({ field, value, fixed, set }: Input) {
  return (
    <Form.Group controlId={`field-${field.name}`} className="mb-2">
      <Form.Label>
        <span className="mono">{field.name}</span>{' '}
        <span className="soft">
          {[field.label, field.type, field.required && 'required'].filter(Boolean).join(' · ')}
        </span>
      </Form.Label>
      {field.allowed.length > 0 && !fixed ? (
        <Form.Select size="sm" value={value} onChange={(event) => set(event.target.value)}>
          <option value="" />
          {field.allowed.map((allowed) => (
            <option key={allowed}>{allowed}</option>
          ))}
        </Form.Select>
      ) : (
        <Form.Control
          size="sm"
          className="mono"
          value={value}
          disabled={fixed}
          placeholder={field.sensitive ? '•••' : ''}
          onChange={(event) => set(event.target.value)}
        />
      )}
    </Form.Group>
  );
}
