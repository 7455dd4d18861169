import Placeholder from 'react-bootstrap/Placeholder';

/** Grey lines where a table will be, so that nothing jumps when it comes. */
export function Loading({ rows }: { rows: number }) {
  return (
    <div aria-busy="true" role="status" aria-label="Loading">
      {Array.from({ length: rows }, (_, row) => (
        <Placeholder key={row} as="div" animation="wave" style={{ height: 32 }}>
          <Placeholder xs={12} style={{ height: 14, borderRadius: 3, opacity: 0.15 }} />
        </Placeholder>
      ))}
    </div>
  );
}
