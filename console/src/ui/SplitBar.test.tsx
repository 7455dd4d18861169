import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { SplitBar } from './SplitBar';

afterEach(cleanup);

describe('a split bar', () => {
  it('shows each part that occurs, by its share', () => {
    const { container } = render(
      <SplitBar
        legend
        parts={[
          { name: 'inserted', count: 1 },
          { name: 'updated', count: 0 },
          { name: 'rejected', count: 3 },
        ]}
      />,
    );
    const widths = [...container.querySelectorAll<HTMLElement>('.bar i')].map((part) => part.style.width);
    expect(widths).toEqual(['25%', '75%']);
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe('1 inserted, 3 rejected');
  });

  it('says so when there is nothing', () => {
    render(<SplitBar legend parts={[{ name: 'inserted', count: 0 }]} />);
    expect(screen.getByText('no rows')).toBeTruthy();
  });
});
