import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { DocumentText, SHOWN_LINES } from './DocumentText';

afterEach(cleanup);

describe('the text of a document', () => {
  it('has lines that links can name', () => {
    const { container } = render(<DocumentText text={'nachlauf: 1\ncrosswalk: region\n'} />);
    expect(screen.getAllByRole('listitem')).toHaveLength(2);
    expect(container.querySelector('#line-2')?.textContent).toBe('crosswalk: region');
    expect(screen.queryByText(/more lines/)).toBeNull();
  });

  it('says how many lines it leaves out', () => {
    const { container } = render(<DocumentText text={'x\n'.repeat(SHOWN_LINES + 1_234)} />);
    expect(container.querySelectorAll('li')).toHaveLength(SHOWN_LINES);
    expect(screen.getByText(/And 1,234 more lines/)).toBeTruthy();
  });
});
