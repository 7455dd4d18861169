import { describe, expect, it } from 'vitest';
import type { ProblemView, TrialRow } from '../../api/client';
import { columns, chosen, inFormula, readingPart, remarks, triedWrites } from './trial';
import { line } from './trial.fixture';

function problem(field: string | undefined, sentence: string): ProblemView {
  return { code: 'value-malformed', warning: false, sentence, remedy: '', field, rendered: sentence };
}

const good: TrialRow = {
  ...{ row: 1, place: 'huts.csv, line 2', cells: ['H-1', null as unknown as string], outcome: 'passed', note: '' },
  ...{ problems: [], warnings: [] },
  records: [
    {
      write: 'hut',
      records: 'hut',
      fields: [
        { name: 'code', value: 'H-1', key: true, later: false, broken: false },
        { name: 'beds', value: undefined, key: false, later: false, broken: false },
        { name: 'warden_id', value: undefined, key: false, later: true, broken: false },
      ],
    },
  ],
};
const wrong: TrialRow = {
  ...good,
  ...{ row: 2, cells: ['H-2', 'many'], outcome: 'rejected' },
  problems: [problem('beds', "'many' is not an integer."), problem('rule', 'A hut has beds.')],
};
const maps = [
  {
    ...{ write: 'hut', connection: 'register', records: 'hut' },
    fields: [
      line('code', { key: true, formula: 'upper(no)', required: true }),
      line('beds', { formula: 'beds' }),
      line('warden_id', { formula: 'find warden by no = licence', rule: 'on-insert' }),
      line('phone', { formula: 'digits(phone)', rule: 'off', label: 'Telephone' }),
      line('opened', { rule: '', required: true }),
      line('hut_id', { rule: '', readOnly: true, required: true, generated: true }),
    ],
  },
];
const skipped: TrialRow = { ...good, row: 3, outcome: 'skipped', note: 'filtered', records: [] };

describe('what a job makes of its first rows', () => {
  it('stands field by field, rows side by side, wrong values with their reason', () => {
    const [hut] = triedWrites(maps, [good, wrong, skipped]);
    expect(hut?.fields[0]?.cells).toEqual([{ is: 'value', text: 'H-1' }, { is: 'value', text: 'H-1' }, { is: 'none' }]);
    expect(hut?.fields[1]?.cells).toEqual([
      { is: 'empty' },
      { is: 'wrong', reason: "'many' is not an integer." },
      { is: 'none' },
    ]);
    expect(hut?.fields[2]?.cells[0]).toEqual({ is: 'later' });
    expect(hut?.fields[3]?.cells).toEqual([{ is: 'none' }, { is: 'none' }, { is: 'none' }]);
  });

  it('is wrong as well where the wrong value has another name in the source', () => {
    const fields = good.records[0]?.fields.map((field) => ({ ...field, broken: field.name === 'beds' })) ?? [];
    const row = { ...wrong, problems: [problem('Beds', "'many' is not an integer.")] };
    const [hut] = triedWrites(maps, [{ ...row, records: [{ write: 'hut', records: 'hut', fields }] }]);
    expect(hut?.fields[1]?.cells).toEqual([{ is: 'wrong', reason: 'It is made of a value that is wrong.' }]);
  });

  it('is narrowed to the fields that somebody looks for', () => {
    const fields = triedWrites(maps, [good])[0]?.fields ?? [];
    const names = (...args: [Parameters<typeof chosen>[1], string]) =>
      chosen(fields, ...args).map((each) => each.field.name);
    expect(names('mapped', '')).toEqual(['code', 'beds', 'warden_id']);
    expect(names('not mapped', '')).toEqual(['phone', 'opened']);
    expect(names('required', '')).toEqual(['code', 'opened']);
    expect(names('all', '')).toHaveLength(6);
    expect(names('all', ' UPPER')).toEqual(['code']);
    expect(names('all', 'tele')).toEqual(['phone']);
    expect(names('mapped', 'warden by')).toEqual(['warden_id']);
    expect(names('mapped', 'phone')).toEqual([]);
  });

  it('says what no field shows', () => {
    expect(remarks(good)).toEqual([]);
    expect(remarks(wrong)).toEqual(['is rejected: rule: A hut has beds.']);
    expect(remarks(skipped)).toEqual(['is skipped: filtered']);
  });

  it('shows columns with the first value that they have', () => {
    const trial = { sound: true, problems: [], columns: ['code', 'beds', 'notes'], rows: [good, wrong], maps };
    expect(columns(trial)).toEqual([
      { name: 'code', sample: 'H-1' },
      { name: 'beds', sample: 'many' },
      { name: 'notes', sample: '' },
    ]);
  });

  it('writes names as formulas want them', () => {
    expect(inFormula('beds')).toBe('beds');
    expect(inFormula('Hut no.')).toBe('"Hut no."');
    expect(inFormula('2nd "name"')).toBe('"2nd ""name"""');
  });

  it('knows the part of a text that says what is read', () => {
    const text = 'job: a\nparameters:\n  season: { is: integer }\nread:\n  file: a.csv\n\nsteps:\n  - where: x\n';
    expect(readingPart(text)).toBe('parameters:\n  season: { is: integer }\nread:\n  file: a.csv\n');
    expect(readingPart(text.replace('where: x', 'where: y'))).toBe(readingPart(text));
    expect(readingPart(text.replace('a.csv', 'b.csv'))).not.toBe(readingPart(text));
  });
});
