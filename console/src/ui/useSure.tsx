import { useState } from 'react';
import type { ReactNode } from 'react';
import Form from 'react-bootstrap/Form';
import { useLive } from '../lib/environment';

/** Asks a second time before something is done in a live environment; elsewhere nothing is asked. */
export function useSure(environment: string): { sure: boolean; again: ReactNode } {
  const live = useLive(environment);
  const [ticked, setTicked] = useState(false);
  return {
    sure: live === undefined || ticked,
    again: live && (
      <div className="live-check">
        <Form.Check
          type="checkbox"
          id="sure"
          checked={ticked}
          onChange={(event) => setTicked(event.target.checked)}
          label={
            <>
              Yes, in <strong>{live.name}</strong>
              {live.title !== live.name && ` (${live.title})`}: this is live.
            </>
          }
        />
      </div>
    ),
  };
}
