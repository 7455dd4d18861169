import type { JobTrial, MapLine, TrialRow, WriteMap } from '../../api/client';

/** A field of a target, what the job maps to it, and what each row makes of it. */
export interface TriedField extends MapLine {
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

/** All writes of the job: the fields of their targets one below the other, the rows side by side. */
export function triedWrites(maps: WriteMap[], rows: TrialRow[]): TriedWrite[] {
  return maps.map(({ write, records, fields }) => ({
    write,
    records,
    fields: fields.map((line) => ({
      ...line,
      cells: isMapped(line) ? rows.map((row) => cell(row, write, line.field.name)) : rows.map(() => ({ is: 'none' })),
    })),
  }));
}

/** Which fields are shown. */
export const CHOICES = ['mapped', 'not mapped', 'required', 'all'] as const;

export type Choice = (typeof CHOICES)[number];

export function isMapped(line: MapLine): boolean {
  return line.rule !== '' && line.rule !== 'off';
}

/** The fields of a choice whose name, label or formula holds the text, whatever its case. */
export function chosen(fields: TriedField[], choice: Choice, text: string): TriedField[] {
  const wanted = text.trim().toLowerCase();
  return fields.filter(
    (line) =>
      isOf(line, choice) &&
      [line.field.name, line.field.label, line.formula ?? ''].some((held) => held.toLowerCase().includes(wanted)),
  );
}

function isOf(line: MapLine, choice: Choice): boolean {
  switch (choice) {
    case 'mapped':
      return isMapped(line);
    case 'not mapped':
      return !isMapped(line) && !line.field.readOnly;
    case 'required':
      return line.key || (line.field.required && !line.field.generated);
    case 'all':
      return true;
  }
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
  if (field.broken) {
    return { is: 'wrong', reason: 'It is made of a value that is wrong.' };
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
    sample: trial.rows.map((row) => row.cells[index]).find((value) => value !== undefined && value !== null) ?? '',
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
