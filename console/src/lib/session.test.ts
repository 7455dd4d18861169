import { describe, expect, it } from 'vitest';
import { includes } from './session';

describe('roles', () => {
  it('may do all that the ones before may', () => {
    expect(includes('administer', 'look')).toBe(true);
    expect(includes('build', 'run')).toBe(true);
    expect(includes('run', 'run')).toBe(true);
    expect(includes('run', 'build')).toBe(false);
    expect(includes('look', 'run')).toBe(false);
  });

  it('may do nothing where the service names one that is not known', () => {
    expect(includes('wander', 'look')).toBe(false);
  });
});
