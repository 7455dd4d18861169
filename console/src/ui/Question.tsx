import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import { useSure } from './useSure';

interface QuestionProps {
  title: string;
  /** What follows, with the true counts. */
  children: ReactNode;
  /** The verb on the button. */
  yes: string;
  /** Where it happens. */
  environment: string;
  /** Whether all that is asked for is given. */
  ready?: boolean;
  act: () => void;
  leave: () => void;
}

/** Asks before something that changes records, and says what will come of it. */
export function Question({ title, children, yes, environment, ready = true, act, leave }: QuestionProps) {
  const { sure, again } = useSure(environment);
  return (
    <Modal show onHide={leave} aria-labelledby="question-title">
      <Modal.Header closeButton>
        <Modal.Title id="question-title" as="h2" className="m-0">
          {title}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {children}
        {again}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="outline-secondary" onClick={leave}>
          Not now
        </Button>
        <Button autoFocus disabled={!sure || !ready} onClick={act}>
          {yes}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
