import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import Form from 'react-bootstrap/Form';
import { chosen } from '../api/environment';
import { useChosenIsGone, useEnvironmentName, useEnvironments, useLive } from '../lib/environment';

/** Where everything happens that these pages show and start; not there while nobody has made environments. */
export function EnvironmentChoice() {
  const queries = useQueryClient();
  const environments = useEnvironments();
  const name = useEnvironmentName();
  const gone = useChosenIsGone();
  useEffect(() => {
    if (gone) {
      chosen.choose('');
    }
  }, [gone]);
  if (environments.length === 0) {
    return null;
  }
  return (
    <label className="rail-environment">
      Environment
      <Form.Select
        size="sm"
        value={name}
        onChange={(event) => {
          chosen.choose(event.target.value);
          void queries.resetQueries();
        }}
      >
        {environments.length > 1 && <option value="">Choose one</option>}
        {environments.map((one) => (
          <option key={one.name} value={one.name}>
            {one.live && one.name !== 'live' ? `${one.name} (live)` : one.name}
          </option>
        ))}
      </Form.Select>
    </label>
  );
}

/** Says that a choice is still to be made, or that what is chosen is live. */
export function EnvironmentStrip() {
  const environments = useEnvironments();
  const name = useEnvironmentName();
  const live = useLive(name);
  if (live) {
    return (
      <div className="live-edge" role="status">
        You are in {live.name}
        {live.title !== live.name && ` (${live.title})`}. This is live: what runs here counts.
      </div>
    );
  }
  return environments.length > 1 && name === '' ? (
    <div className="strip" role="status">
      There are {environments.length} environments. Choose one on the left: without it nothing can be started, and no
      system can be asked.
    </div>
  ) : null;
}
