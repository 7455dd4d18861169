import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState, useSyncExternalStore } from 'react';
import Button from 'react-bootstrap/Button';
import { serviceState } from '../api/client';

const PATIENCE = 5;

/** A quiet strip while the service can't be reached: counts down to the next try and loses nothing typed. */
export function ServiceStrip() {
  const gone = useSyncExternalStore(serviceState.subscribe, serviceState.isGone);
  return gone ? <Countdown /> : null;
}

function Countdown() {
  const queries = useQueryClient();
  const [left, setLeft] = useState(PATIENCE);
  useEffect(() => {
    const timer = setInterval(() => setLeft((seconds) => (seconds <= 1 ? PATIENCE : seconds - 1)), 1000);
    return () => clearInterval(timer);
  }, []);
  return (
    <div className="strip" role="status">
      <span>The service can’t be reached. Next try in {left} s; nothing typed here is lost.</span>
      <Button size="sm" variant="outline-secondary" onClick={() => void queries.invalidateQueries()}>
        Try now
      </Button>
    </div>
  );
}
