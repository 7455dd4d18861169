import { afterEach, expect, test, vi } from 'vitest';
import { chosen, inChosen } from './environment';

afterEach(() => chosen.choose(''));

test('calls name the chosen environment, and nothing where none is chosen', () => {
  expect(inChosen('/runs?limit=5')).toBe('/runs?limit=5');
  chosen.choose('trial');
  expect(inChosen('/runs?limit=5')).toBe('/runs?limit=5&environment=trial');
  expect(inChosen('/jobs')).toBe('/jobs?environment=trial');
});

test('who listens hears of a choice until they leave', () => {
  const heard = vi.fn();
  const leave = chosen.subscribe(heard);
  chosen.choose('live');
  leave();
  chosen.choose('');
  expect(heard).toHaveBeenCalledTimes(1);
  expect(chosen.name()).toBe('');
});
