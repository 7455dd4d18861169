import { describe, expect, it } from 'vitest';
import type { BalanceView } from '../api/client';
import {
  allRejected,
  busySteps,
  changed,
  changesOf,
  outcomeParts,
  readingParts,
  sum,
  targets,
  writingParts,
} from './balance';

const balance: BalanceView = {
  read: 254,
  skipped: 9,
  rejected: 5,
  passed: 240,
  unreached: 0,
  unknown: 0,
  taken: 240,
  inserted: 11,
  updated: 96,
  unchanged: 131,
  deleted: 0,
  issued: 0,
  refused: 2,
  warned: 0,
  elsewhere: 0,
  balanced: true,
  steps: [],
  writes: [],
};

describe('the parts of a balance', () => {
  it('add up to the rows read', () => {
    const total = outcomeParts(balance).reduce((all, part) => all + part.count, 0);
    expect(total).toBe(254);
  });

  it('add up on each side', () => {
    expect(readingParts(balance).reduce((all, part) => all + part.count, 0)).toBe(balance.read);
    expect(writingParts(balance).reduce((all, part) => all + part.count, 0)).toBe(balance.taken);
  });

  it('count each rejected row once', () => {
    expect(allRejected(balance)).toBe(7);
  });

  it('call the rest of a moving run still to come', () => {
    const moving = { ...balance, read: 300, unreached: 46 };
    expect(sum(readingParts(moving, true), String)).toBe('240 passed + 9 skipped + 5 rejected + 46 to come');
    expect(sum(readingParts(moving), String)).toContain('46 unreached');
  });

  it('are told as a sum without zeros', () => {
    expect(sum(readingParts(balance), String)).toBe('240 passed + 9 skipped + 5 rejected');
    expect(sum([], String)).toBe('0');
  });

  it('leaves out steps that let every row pass, and counts changes of all writes', () => {
    const step = { step: 'where', in: 9, made: 0, out: 9, skipped: 0, rejected: 0, merged: 0 };
    const busy = { ...step, out: 7, skipped: 2 };
    const write = {
      ...{
        write: 'order',
        connection: 'register',
        records: 'order',
        main: true,
        gone: false,
        taken: 3,
        inserted: 2,
        updated: 1,
        unchanged: 0,
      },
      ...{ deleted: 0, issued: 0, refused: 0, fields: [], keyFields: [], sensitive: [] },
    };
    const whole = { ...balance, steps: [step, busy], writes: [write, { ...write, inserted: 5 }] };
    expect(busySteps(whole)).toEqual([busy]);
    expect(changed(whole)).toBe(9);
    const sign = { ...write, connection: 'paint-shop', records: 'sign' };
    expect(targets([write, { ...write, records: 'line' }, sign])).toBe('register order, line, paint-shop sign');
    expect(targets([write, { ...write, write: 'order (by hut)' }]), 'a place is named once').toBe('register order');
    const gone = { ...write, write: 'order (gone)', main: false, gone: true, inserted: 0, updated: 0, deleted: 4 };
    expect(targets([write, gone]), 'what goes is no other target').toBe('register order');
    const replaced = { ...balance, writes: [write, gone] };
    expect(changesOf(replaced)).toBe('2 new records, 1 changed record and 4 removed records');
  });
});
