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
    expect([...container.querySelectorAll('.raw .bad')].map((cell) => cell.textContent)).toEqual(['2400']);
    expect(screen.getByText(/A hut has 0 to 200 beds/)).toBeTruthy();
  });

  it('show every cell, also empty ones and ones beyond the header', () => {
    const { container } = render(<RejectedRows rejects={[{ ...row, key: '', raw: ['h-241', null, null, 'more'] }]} />);
    expect([...container.querySelectorAll('.raw > span')].map((cell) => cell.textContent)).toEqual([
      'h-241',
      '–',
      '–',
      'more',
    ]);
    expect(screen.getByTitle('beyond the header')).toBeTruthy();
    expect(screen.getByText('no key')).toBeTruthy();
  });
});
