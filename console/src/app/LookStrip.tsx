import { useSyncExternalStore } from 'react';
import Button from 'react-bootstrap/Button';
import { looksUnderWay, stopLook } from '../api/looks';
import { count } from '../lib/format';

/** Looks that take longer than a moment: how far they are, and a way to end them. */
export function LookStrip() {
  const looks = useSyncExternalStore(looksUnderWay.subscribe, looksUnderWay.now);
  return looks.map((look) => (
    <div key={look.id} className="strip">
      <span role="status">
        {look.state === 'waiting' ? 'Waiting for its turn' : 'Under way'}: {look.what}
      </span>
      <span className="fixed">{look.rows > 0 && `${count(look.rows, 'row')} read`}</span>
      <Button size="sm" variant="outline-secondary" onClick={() => void stopLook(look)}>
        Stop
      </Button>
    </div>
  ));
}
