import { cleanup, render, screen, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { StepCounts } from './StepCounts';

afterEach(cleanup);

const where = { step: 'where', in: 1250, made: 0, out: 1244, skipped: 6, rejected: 0, merged: 0 };
const combine = { step: 'combine', in: 1244, made: 0, out: 156, skipped: 0, rejected: 4, merged: 1084 };

describe('the counts of steps', () => {
  it('stand in one line each, zeros left blank', () => {
    render(<StepCounts steps={[where, combine]} />);
    const rows = within(screen.getByRole('table', { name: 'Steps' })).getAllByRole('row');
    const cells = rows.map((row) => [...row.children].map((cell) => cell.textContent));
    expect(cells[0]).toEqual(['step', 'in', 'made', 'out', 'skipped', 'rejected', 'merged']);
    expect(cells[1]).toEqual(['where', '1,250', '', '1,244', '6', '', '']);
    expect(cells[2]).toEqual(['combine', '1,244', '', '156', '', '4', '1,084']);
  });

  it('are not there where no step did anything', () => {
    const { container } = render(<StepCounts steps={[]} />);
    expect(container.innerHTML).toBe('');
  });
});
