import type { components } from './schema';

export type LookView = components['schemas']['LookView'];

const listeners = new Set<() => void>();
let underWay: LookView[] = [];

function set(looks: LookView[]) {
  underWay = looks;
  listeners.forEach((listener) => listener());
}

/** The looks that this page waits for, with their rows so far. */
export const looksUnderWay = {
  subscribe(listener: () => void) {
    listeners.add(listener);
    return () => {
      listeners.delete(listener);
    };
  },
  now: () => underWay,
};

/** Ends a look; whoever waits for it is told so. */
export function stopLook(look: LookView) {
  return fetch(`/api/v1/looks/${look.id}/stop`, { method: 'POST' });
}

/** Waits for a look that took longer than its call, and shows how far it is. */
export async function lookResult(named: Response): Promise<Response> {
  let look = (await named.json()) as LookView;
  const id = look.id;
  const address = named.headers.get('Location') ?? '';
  try {
    for (;;) {
      set([...underWay.filter((other) => other.id !== id), look]);
      const answer = await fetch(address, { headers: { Prefer: 'wait=1' } });
      if (answer.status !== named.status) {
        return answer;
      }
      look = (await answer.json()) as LookView;
    }
  } finally {
    set(underWay.filter((other) => other.id !== id));
  }
}
