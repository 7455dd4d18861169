import type { BalanceView, StepCountView, WriteCountView } from '../api/client';
import { count } from './format';
import type { Part } from './part';

/** All rows by what became of them, always in this order. */
export function outcomeParts(balance: BalanceView): Part[] {
  return [
    { name: 'inserted', count: balance.inserted },
    { name: 'updated', count: balance.updated },
    { name: 'unchanged', count: balance.unchanged },
    { name: 'deleted', count: balance.deleted },
    { name: 'issued', count: balance.issued },
    { name: 'skipped', count: balance.skipped },
    { name: 'rejected', count: allRejected(balance) },
    { name: 'unknown', count: balance.unknown, label: 'outcome unknown' },
    { name: 'unreached', count: balance.unreached },
  ];
}

/** While a run moves, what it has not reached is still to come. */
export function readingParts(balance: BalanceView, moving = false): Part[] {
  return [
    { name: 'passed', count: balance.passed },
    { name: 'skipped', count: balance.skipped },
    { name: 'rejected', count: balance.rejected },
    { name: 'unreached', count: balance.unreached, ...(moving ? { label: 'to come' } : {}) },
    { name: 'unknown', count: balance.unknown, label: 'outcome unknown' },
  ];
}

type Outcomes = Pick<BalanceView, 'inserted' | 'updated' | 'unchanged' | 'deleted' | 'issued' | 'refused'>;

export function writingParts(balance: Outcomes): Part[] {
  return [
    { name: 'inserted', count: balance.inserted },
    { name: 'updated', count: balance.updated },
    { name: 'unchanged', count: balance.unchanged },
    { name: 'deleted', count: balance.deleted },
    { name: 'issued', count: balance.issued },
    { name: 'rejected', count: balance.refused },
  ];
}

/** Distinct rows with rejects. */
export function allRejected(balance: BalanceView): number {
  return balance.rejected + balance.refused + balance.elsewhere;
}

/** Records that some write has made, changed or removed. */
export function changed(balance: BalanceView): number {
  return balance.writes.reduce((all, write) => all + write.inserted + write.updated + write.deleted, 0);
}

/** The same in words: "3 new records and 1 changed record". */
export function changesOf(balance: BalanceView): string {
  const all = (outcome: 'inserted' | 'updated' | 'deleted') =>
    balance.writes.reduce((total, write) => total + write[outcome], 0);
  const parts = [
    { sum: all('inserted'), word: 'new record' },
    { sum: all('updated'), word: 'changed record' },
    { sum: all('deleted'), word: 'removed record' },
  ].filter((part) => part.sum > 0);
  const words = parts.map((part) => count(part.sum, part.word));
  return words.length < 2 ? (words[0] ?? 'Nothing') : `${words.slice(0, -1).join(', ')} and ${words.at(-1) ?? ''}`;
}

/** Steps that let every row pass say nothing. */
export function busySteps(balance: BalanceView): StepCountView[] {
  return balance.steps.filter((step) => step.made + step.merged + step.skipped + step.rejected > 0);
}

/** The sum behind a figure: "238 passed + 9 skipped". */
export function sum(parts: Part[], print: (value: number) => string): string {
  const terms = parts.filter((part) => part.count > 0).map((part) => `${print(part.count)} ${part.label ?? part.name}`);
  return terms.length === 0 ? '0' : terms.join(' + ');
}

/** Where a run writes; a connection is named again only where it changes. */
export function targets(writes: WriteCountView[]): string {
  return writes
    .filter((write) => !write.gone)
    .filter((write, i, all) => all.findIndex((other) => isSamePlace(write, other)) === i)
    .map((write, i, all) => (write.connection === all[i - 1]?.connection ? '' : `${write.connection} `) + write.records)
    .join(', ');
}

function isSamePlace(one: WriteCountView, other: WriteCountView): boolean {
  return one.connection === other.connection && one.records === other.records;
}
