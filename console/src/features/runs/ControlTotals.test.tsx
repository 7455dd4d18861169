import { render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { ControlTotals } from './ControlTotals';

const NIGHTS = {
  name: 'nights',
  read: '3580',
  skipped: '0',
  rejected: '25',
  written: '3555',
  unreached: '0',
  unread: 0,
  target: '3555',
  differs: false,
};

describe('control totals', () => {
  it('show what has a figure, and leave out what is nothing', () => {
    render(<ControlTotals planned={false} totals={{ sums: [NIGHTS], records: [] }} />);
    const heads = screen.getAllByRole('columnheader').map((head) => head.textContent);
    expect(heads).toEqual(['sum of', 'read', 'written', 'rejected', 'in the target', '']);
    const cells = screen.getAllByRole('cell').map((cell) => cell.textContent);
    expect(cells).toEqual(['nights', '3,580', '3,555', '25', '3,555', '']);
  });

  it('say what differs and what nobody could read', () => {
    const off = { ...NIGHTS, expected: '3600', unread: 2, differs: true };
    const records = { target: 'register stay', before: 5, inserted: 2, deleted: 1, after: 7, differs: true };
    render(<ControlTotals planned totals={{ sums: [off], records: [records] }} />);
    expect(screen.getByText('differs, unreadable in 2 rows')).toBeTruthy();
    expect(screen.getByText('3,600')).toBeTruthy();
    expect(screen.getByText(/5 records before \+ 2 inserted − 1 deleted; 7 after\. That differs\./)).toBeTruthy();
  });

  it('are nothing where a job has none', () => {
    const { container } = render(<ControlTotals planned={false} />);
    expect(container.textContent).toBe('');
  });
});
