import type { JobTrial, TrialRow } from '../../api/client';

/** A field of a write and what each row makes of it. */
export interface TriedField {
  name: string;
  key: boolean;
  cells: TriedCell[];
}

/** `reason` says why there is no value; `empty` stands for null. */
export type TriedCell =
  { is: 'value'; text: string } | { is: 'wrong'; reason: string } | { is: 'later' | 'empty' | 'none' };

export interface TriedWrite {
  write: string;
  records: string;
  fields: TriedField[];
}

/** The writes that some row goes to, their fields one below the other, the rows side by side. */
export function triedWrites(rows: TrialRow[]): TriedWrite[] {
  const writes = new Map<string, TriedWrite>();
  for (const row of rows) {
    for (const made of row.records) {
      if (!writes.has(made.write)) {
        const fields = made.fields.map(({ name, key }) => ({
          name,
          key,
          cells: rows.map((each) => cell(each, made.write, name)),
        }));
        writes.set(made.write, { write: made.write, records: made.records, fields });
      }
    }
  }
  return [...writes.values()];
}

function cell(row: TrialRow, write: string, name: string): TriedCell {
  const field = row.records.find((made) => made.write === write)?.fields.find((made) => made.name === name);
  if (!field) {
    return { is: 'none' };
  }
  const problem = row.problems.find((found) => found.field === name);
  if (problem) {
    return { is: 'wrong', reason: problem.sentence };
  }
  if (field.later) {
    return { is: 'later' };
  }
  return field.value === undefined || field.value === null ? { is: 'empty' } : { is: 'value', text: field.value };
}

/** What is to be said of a row beside its values: why it is skipped, and problems that no field shows. */
export function remarks(row: TrialRow): string[] {
  const shown = new Set(row.records.flatMap((made) => made.fields.map((field) => field.name)));
  return [
    ...(row.outcome === 'skipped' ? [`is skipped: ${row.note}`] : []),
    ...row.problems
      .filter((problem) => !problem.field || !shown.has(problem.field))
      .map((problem) => `is rejected: ${problem.field ? `${problem.field}: ` : ''}${problem.sentence}`),
    ...row.warnings.map((warning) => `goes on with a warning: ${warning.sentence}`),
  ];
}

/** A column of the source with the first value that it has in the rows. */
export function columns(trial: JobTrial): { name: string; sample: string }[] {
  return trial.columns.map((name, index) => ({
    name,
    sample: trial.rows.map((row) => row.cells[index]).find((cell) => cell !== undefined && cell !== null) ?? '',
  }));
}

/** A name as formulas write it: in double quotes where it isn't a plain word. */
export function inFormula(name: string): string {
  return /^[A-Za-z_][A-Za-z0-9_]*$/.test(name) ? name : `"${name.replaceAll('"', '""')}"`;
}

/** The sections of a job's text that say what is read: while they stand still, the same file is meant. */
export function readingPart(text: string): string {
  let inside = false;
  return text
    .split('\n')
    .filter((line) => {
      if (/^\S/.test(line)) {
        inside = /^(read|parameters)\s*:/.test(line);
      }
      return inside;
    })
    .join('\n');
}
