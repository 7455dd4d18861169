import Button from 'react-bootstrap/Button';

/** What failed, and another try. */
export function Failed({ error, again }: { error: Error; again: () => void }) {
  return (
    <div className="panel" role="alert" style={{ maxWidth: 640 }}>
      <div className="bad">{error.message}</div>
      <Button className="mt-2" size="sm" variant="outline-secondary" onClick={again}>
        Try again
      </Button>
    </div>
  );
}
