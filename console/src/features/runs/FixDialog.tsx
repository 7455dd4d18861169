import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { RejectView } from '../../api/client';
import { corrected, ids } from './corrections';
import { useRejectDecision } from './useRejectDecision';

interface Fix {
  /** All that was made of the row and refused. */
  made: RejectView[];
  reject: RejectView;
  leave: () => void;
}

/** Corrects the cells of a rejected row; that counts when it is sent again. */
export function FixDialog({ made, reject, leave }: Fix) {
  const before = Object.fromEntries(
    reject.header.map((column, at) => [column, reject.corrections[column] ?? reject.raw[at] ?? '']),
  );
  const [cells, setCells] = useState<Record<string, string>>(before);
  const set = corrected(before, cells);
  const fix = useRejectDecision(reject.run, leave);
  return (
    <Modal show onHide={leave} aria-labelledby="fix-title" scrollable>
      <Modal.Header closeButton>
        <Modal.Title id="fix-title" as="h2" className="m-0">
          Correct {reject.place}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {fix.error && (
          <p className="bad" role="alert">
            {fix.error.message}
          </p>
        )}
        {reject.problems.map((problem, index) => (
          <p key={index}>
            {problem.field && <span className="mono">{problem.field}: </span>}
            {problem.sentence}
          </p>
        ))}
        <Form
          id="fix"
          onSubmit={(event) => {
            event.preventDefault();
            fix.mutate({ word: 'fix', body: { rejects: { ids: ids(made) }, set } });
          }}
        >
          {reject.header.map((column) => (
            <Form.Group key={column} controlId={`cell-${column}`} className="mb-2">
              <Form.Label className="mono mb-0">{column}</Form.Label>
              <Form.Control
                size="sm"
                className="mono"
                value={cells[column] ?? ''}
                onChange={(event) => setCells({ ...cells, [column]: event.target.value })}
              />
            </Form.Group>
          ))}
        </Form>
      </Modal.Body>
      <Modal.Footer>
        <span className="soft me-auto">The source stays as it is.</span>
        <Button variant="outline-secondary" onClick={leave}>
          Not now
        </Button>
        <Button type="submit" form="fix" disabled={Object.keys(set).length === 0 || fix.isPending}>
          Keep the correction
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
