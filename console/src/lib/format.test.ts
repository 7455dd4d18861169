import { describe, expect, it } from 'vitest';
import { bytes, count, decimal, duration, moment, number, pace } from './format';

describe('figures for people', () => {
  it('have thousands separators', () => {
    expect(number(1234567)).toBe('1,234,567');
    expect(decimal('-1234567.50')).toBe('-1,234,567.50');
    expect(decimal('999')).toBe('999');
    expect(decimal('12345678901234567890.1234')).toBe('12,345,678,901,234,567,890.1234');
  });

  it('agree with their noun', () => {
    expect(count(1, 'row')).toBe('1 row');
    expect(count(1000, 'row')).toBe('1,000 rows');
  });

  it('say today without a date', () => {
    const now = new Date(2026, 4, 1, 18, 0);
    expect(moment(new Date(2026, 4, 1, 8, 14).toISOString(), now)).toMatch(/today$/);
    expect(moment(new Date(2026, 3, 30, 8, 14).toISOString(), now)).toMatch(/2026/);
  });

  it('tell how long it took', () => {
    expect(duration('2026-05-01T10:00:00Z', '2026-05-01T10:00:01.900Z')).toBe('1.9 s');
    expect(duration('2026-05-01T10:00:00Z', '2026-05-01T10:02:05Z')).toBe('2 min 5 s');
    expect(duration(undefined, '2026-05-01T10:02:05Z')).toBe('');
  });

  it('shorten sizes', () => {
    expect(bytes(512)).toBe('512 B');
    expect(bytes(1536)).toBe('1.5 kB');
    expect(bytes(5 * 1024 * 1024)).toBe('5.0 MB');
  });

  it('says how fast rows go through, and how long it takes', () => {
    expect(pace({ rate: 41_250 })).toBe('41,250 rows/s');
    expect(pace({ rate: 900, secondsLeft: 99 })).toBe('900 rows/s, 99 s left');
    expect(pace({ rate: 900, secondsLeft: 121 })).toBe('900 rows/s, 3 min left');
  });
});
