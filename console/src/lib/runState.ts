import type { RunLine, RunView } from '../api/client';
import { count } from './format';

export interface StateWords {
  tone: 'calm' | 'needs' | 'bad';
  words: string;
}

/** A run's state in words, and whether it waits for somebody. */
export function runState(run: Pick<RunLine, 'state' | 'note' | 'openRejects' | 'mode'>): StateWords {
  if (run.mode === 'dry-run' && run.state === 'finished') {
    return { tone: 'calm', words: 'dry run, finished' };
  }
  if (run.mode === 'rehearse' && run.state === 'finished') {
    return { tone: 'calm', words: 'rehearsal, finished' };
  }
  switch (run.state) {
    case 'failed':
      return { tone: 'bad', words: 'failed' };
    case 'held':
      return { tone: 'needs', words: 'held' };
    case 'stopped':
      return { tone: 'needs', words: 'stopped' };
    case 'waiting':
      return run.note ? { tone: 'needs', words: 'waiting' } : { tone: 'calm', words: 'waiting' };
    case 'finished':
      return run.openRejects > 0
        ? { tone: 'needs', words: `finished, ${count(run.openRejects, 'reject')} left` }
        : { tone: 'calm', words: 'finished' };
    default:
      return { tone: 'calm', words: run.state };
  }
}

/** Why runs are held that were started so: somebody wanted to look, and nothing stands against going on. */
export function isAsAsked(reason: { code: string }): boolean {
  return reason.code === 'held-for-review' || reason.code === 'first-rows-written';
}

/** Whether a run waits for somebody else than whoever has started it. */
export function waitsForASecond(run: Pick<RunView, 'reasons'>): boolean {
  return run.reasons.some(isOfASecond);
}

/** Whether a reason is no limit that a release goes beyond, but a person whom a run waits for. */
export function isOfASecond(reason: { code: string }): boolean {
  return reason.code === 'sensitive-change';
}

/** Whether nothing moves any more without somebody's word. */
export function isOver(run: RunView): boolean {
  return run.state !== 'running' && run.state !== 'waiting';
}
