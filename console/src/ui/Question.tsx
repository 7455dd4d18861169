import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';

interface QuestionProps {
  title: string;
  /** What follows, with the true counts. */
  children: ReactNode;
  /** The verb on the button. */
  yes: string;
  act: () => void;
  leave: () => void;
}

/** Asks before something that changes records, and says what will come of it. */
export function Question({ title, children, yes, act, leave }: QuestionProps) {
  return (
    <Modal show onHide={leave} aria-labelledby="question-title">
      <Modal.Header closeButton>
        <Modal.Title id="question-title" as="h2" className="m-0">
          {title}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>{children}</Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={leave}>
          Not now
        </Button>
        <Button autoFocus onClick={act}>
          {yes}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
