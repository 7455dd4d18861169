import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { ParameterView, StartQuestions } from '../../api/client';
import { ASKED, AskedFields, button, isWhole } from './Asked';
import type { Asked } from './Asked';
import { useEnvironmentName } from '../../lib/environment';
import { useSure } from '../../ui/useSure';
import { given, missing } from './parameters';

interface Choice {
  job: string;
  questions: StartQuestions;
  start: (values: Record<string, string>, asked: Asked) => void;
  leave: () => void;
}

/** Asks what a run is for, and for a job's parameters; what is left empty has its default. */
export function StartDialog({ job, questions, start, leave }: Choice) {
  const { parameters, upload } = questions;
  const [values, setValues] = useState<Record<string, string>>({});
  const [asked, setAsked] = useState(ASKED);
  const open = [...missing(parameters, values), ...(upload && !asked.file ? [`the file ${upload}`] : [])];
  const { sure, again } = useSure(useEnvironmentName());
  return (
    <Modal show onHide={leave} aria-labelledby="start-title">
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          start(given(values), asked);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title id="start-title" as="h2" className="m-0">
            Start a run of <span className="mono">{job}</span>
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {parameters.map((parameter, place) => (
            <Form.Group key={parameter.name} controlId={`parameter-${parameter.name}`} className="mb-2">
              <Form.Label>
                <span className="mono">{parameter.name}</span> <span className="soft">{words(parameter)}</span>
              </Form.Label>
              <Field
                parameter={parameter}
                value={values[parameter.name] ?? ''}
                first={place === 0}
                set={(value) => setValues({ ...values, [parameter.name]: value })}
              />
            </Form.Group>
          ))}
          <div className={parameters.length > 0 ? 'mt-3' : undefined}>
            <AskedFields asked={asked} set={setAsked} upload={upload} />
          </div>
          {again}
        </Modal.Body>
        <Modal.Footer>
          {open.length > 0 && <span className="soft me-auto">Still needed: {open.join(', ')}</span>}
          <Button variant="outline-secondary" onClick={leave}>
            Not now
          </Button>
          <Button type="submit" disabled={open.length > 0 || !isWhole(asked) || !sure}>
            {button(asked)}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}

function words(parameter: ParameterView): string {
  return [
    parameter.question,
    parameter.list ? `${parameter.kind}, several, separated by commas` : parameter.kind,
    parameter.defaultValue && `${parameter.defaultValue} unless you say otherwise`,
  ]
    .filter(Boolean)
    .join(' · ');
}

interface Input {
  parameter: ParameterView;
  value: string;
  first: boolean;
  set: (value: string) => void;
}

function Field({ parameter, value, first, set }: Input) {
  if (parameter.allowed.length > 0 && !parameter.list) {
    return (
      <Form.Select size="sm" autoFocus={first} value={value} onChange={(event) => set(event.target.value)}>
        <option value="">{parameter.defaultValue ?? ''}</option>
        {parameter.allowed
          .filter((allowed) => allowed !== parameter.defaultValue)
          .map((allowed) => (
            <option key={allowed}>{allowed}</option>
          ))}
      </Form.Select>
    );
  }
  return (
    <Form.Control
      size="sm"
      autoFocus={first}
      value={value}
      placeholder={parameter.defaultValue ?? ''}
      onChange={(event) => set(event.target.value)}
    />
  );
}
