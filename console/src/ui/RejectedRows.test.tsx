import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { RejectedRows } from './RejectedRows';

afterEach(cleanup);

const row = {
  id: 1,
  place: 'huts.csv, line 14',
  row: 13,
  key: 'H-241',
  header: ['code', 'beds', 'phone'],
  raw: ['h-241', '2400', null],
  problems: [{ code: 'rule-failed', sentence: 'A hut has 0 to 200 beds.', remedy: '', field: 'beds', value: '2400' }],
};

describe('rejected rows', () => {
  it('mark the cell at fault', () => {
    const { container } = render(<RejectedRows rejects={[row]} />);
    expect([...container.querySelectorAll('.raw .bad')].map((cell) => cell.textContent)).toEqual(['beds2400']);
    expect(screen.getByText(/A hut has 0 to 200 beds/)).toBeTruthy();
  });

  it('show every cell, also empty ones and ones beyond the header', () => {
    const { container } = render(<RejectedRows rejects={[{ ...row, key: '', raw: ['h-241', null, null, 'more'] }]} />);
    expect([...container.querySelectorAll('.raw > span')].map((cell) => cell.textContent)).toEqual([
      'codeh-241',
      'beds–',
      'phone–',
      'beyond the headermore',
    ]);
    expect(screen.getByText('no key')).toBeTruthy();
  });

  it('say where exactly and what helps', () => {
    const problem = { code: 'rule-failed', sentence: 'Too many.', at: 'Seekamm!E14', remedy: 'Correct the figure.' };
    render(<RejectedRows rejects={[{ ...row, problems: [problem] }]} />);
    expect(screen.getByText('Seekamm!E14 · Correct the figure.')).toBeTruthy();
  });

  it('are one line for all that was made of a row', () => {
    const made = [1, 2, 3, 4, 5].map((day) => ({
      ...row,
      id: day,
      key: `H-241 · ${String(day)}`,
      problems: [
        ...row.problems,
        { code: 'out-of-range', sentence: `Day ${String(day)} is closed.`, remedy: '', field: 'day' },
      ],
    }));
    const { container } = render(<RejectedRows rejects={[...made, { ...row, id: 6, row: 14 }]} />);
    expect(container.querySelectorAll('tbody tr')).toHaveLength(2);
    expect(screen.getAllByText(/A hut has 0 to 200 beds/)).toHaveLength(2);
    expect(screen.getByText('3 more reasons')).toBeTruthy();
    expect(screen.getByText('and 2 more')).toBeTruthy();
  });
});
