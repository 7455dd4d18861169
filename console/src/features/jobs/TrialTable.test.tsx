import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { JobTrial, TrialRow } from '../../api/client';
import { line } from './trial.fixture';
import { ColumnChips, TrialTable } from './TrialTable';

afterEach(cleanup);

function row(number: number, beds: string, outcome = 'passed'): TrialRow {
  const wrong = { code: 'value-malformed', warning: false, sentence: `'${beds}' is not an integer.`, remedy: '' };
  return {
    ...{ row: number, place: `huts.csv, line ${number + 1}`, cells: [`H-${number}`, beds], outcome, note: '' },
    problems: outcome === 'rejected' ? [{ ...wrong, field: 'beds', rendered: wrong.sentence }] : [],
    warnings: [],
    records: [
      {
        ...{ write: 'hut', records: 'hut' },
        fields: [
          { name: 'hut_code', value: `H-${number}`, key: true, later: false, broken: false },
          { name: 'beds', value: outcome === 'rejected' ? undefined : beds, key: false, later: false, broken: false },
        ],
      },
    ],
  };
}

const trial: JobTrial = {
  ...{ sound: true, problems: [], columns: ['no', 'beds'] },
  rows: [row(1, '8'), row(2, '9'), row(3, 'many', 'rejected'), row(4, '7'), row(5, 'few', 'rejected')],
  maps: [
    {
      ...{ write: 'hut', connection: 'register', records: 'hut' },
      fields: [
        line('hut_code', { key: true, formula: 'upper(no)' }),
        line('beds', { formula: 'beds', rule: 'if-empty' }),
        line('opens', { rule: '', required: true, type: 'date' }),
      ],
    },
  ],
};

describe('the table of a trial', () => {
  it('shows the first rows and a wrong value with its reason in its place', () => {
    render(<TrialTable trial={trial} wrong={false} />);
    const table = screen.getByRole('table', { name: 'What hut gets' });
    expect(table.querySelectorAll('thead th')).toHaveLength(5);
    expect(table.querySelector('thead th')?.textContent).toBe('hut 2 of 3 fields');
    expect(screen.getByText("'many' is not an integer.").className).toBe('wrong');
    expect(screen.queryByText('row 4')).toBeNull();
  });

  it('shows only the rejected ones where that is asked for', () => {
    render(<TrialTable trial={trial} wrong />);
    expect(screen.getAllByRole('columnheader').map((head) => head.textContent)).toEqual([
      'hut 2 of 3 fields',
      'Formula',
      'row 3 rejected',
      'row 5 rejected',
    ]);
  });

  it('says so where there is none', () => {
    render(<TrialTable trial={{ ...trial, rows: [row(1, '8')] }} wrong />);
    expect(screen.getByText('None of these rows is rejected.')).toBeTruthy();
  });

  it('shows what each field becomes, and what is not mapped where that is asked for', () => {
    render(<TrialTable trial={trial} wrong={false} />);
    expect(screen.getByText('upper(no)')).toBeTruthy();
    expect(screen.getByText('if-empty')).toBeTruthy();
    expect(screen.queryByText('opens')).toBeNull();
    fireEvent.click(screen.getByRole('radio', { name: 'not mapped' }));
    expect(screen.getByText('opens')).toBeTruthy();
    expect(screen.getByText('required', { selector: '.mark' })).toBeTruthy();
    expect(screen.queryByText('upper(no)')).toBeNull();
    fireEvent.change(screen.getByRole('searchbox', { name: 'Search fields' }), { target: { value: 'beds' } });
    expect(screen.getByText('No field of this kind.')).toBeTruthy();
  });

  it('puts a column into the text', () => {
    const pick = vi.fn();
    render(<ColumnChips trial={trial} pick={pick} />);
    fireEvent.click(screen.getByRole('button', { name: /^beds/ }));
    expect(pick).toHaveBeenCalledWith('beds');
  });
});
