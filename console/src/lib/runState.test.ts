import { describe, expect, it } from 'vitest';
import type { RunView } from '../api/client';
import { isOver, runState } from './runState';

const run = (state: string, more: Partial<RunView> = {}) => ({ state, note: '', openRejects: 0, ...more }) as RunView;

describe('the state of a run in words', () => {
  it('is calm when nobody is needed', () => {
    expect(runState(run('finished'))).toEqual({ tone: 'calm', words: 'finished' });
    expect(runState(run('running')).tone).toBe('calm');
  });

  it('says when somebody is', () => {
    expect(runState(run('finished', { openRejects: 1 }))).toEqual({ tone: 'needs', words: 'finished, 1 reject left' });
    expect(runState(run('held')).tone).toBe('needs');
    expect(runState(run('stopped')).tone).toBe('needs');
    expect(runState(run('waiting', { note: 'The target can’t be reached.' })).tone).toBe('needs');
    expect(runState(run('failed')).tone).toBe('bad');
  });

  it('knows when nothing moves by itself', () => {
    expect(['running', 'waiting'].some((state) => isOver(run(state)))).toBe(false);
    expect(['held', 'finished', 'failed', 'stopped', 'discarded'].every((state) => isOver(run(state)))).toBe(true);
  });
});
