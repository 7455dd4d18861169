import type { RecordsView } from '../../api/client';

/** What is asked of the records of a type; it stands in the page's address, so that it can be passed on. */
export interface Question {
  where: string;
  sort: string;
  descending: boolean;
}

export const SHOWN = 100;

export function asked(search: URLSearchParams): Question {
  return {
    where: search.get('where') ?? '',
    sort: search.get('sort') ?? '',
    descending: search.get('down') === 'yes',
  };
}

/** The question as it stands in an address; what is not said is left out. */
export function address(question: Question): URLSearchParams {
  const search = new URLSearchParams();
  if (question.where.trim()) {
    search.set('where', question.where.trim());
  }
  if (question.sort) {
    search.set('sort', question.sort);
    if (question.descending) {
      search.set('down', 'yes');
    }
  }
  return search;
}

/** The question as the service takes it. */
export function query(question: Question): URLSearchParams {
  const search = new URLSearchParams({ limit: String(SHOWN) });
  if (question.where) {
    search.set('where', question.where);
  }
  if (question.sort) {
    search.set('sort', question.sort + (question.descending ? ' desc' : ''));
  }
  return search;
}

/** The key by which people know a record: one that the system doesn't give by itself, if there is one. */
export function keyOf(type: RecordsView): string[] {
  const given = (key: string[]) =>
    key.every((name) => type.fields.some((field) => field.name === name && !field.generated));
  return type.uniqueKeys.find(given) ?? type.uniqueKeys[0] ?? [];
}

/** What was changed: fields whose value is another one than before. */
export function changes(before: Record<string, string>, now: Record<string, string>): Record<string, string> {
  return Object.fromEntries(Object.entries(now).filter(([field, value]) => value !== (before[field] ?? '')));
}
