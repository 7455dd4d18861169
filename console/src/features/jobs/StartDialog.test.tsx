import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { keys } from '../../api/keys';
import { ASKED, request } from './Asked';
import { StartDialog } from './StartDialog';

afterEach(cleanup);

/** Renders it where there are these environments. */
function shown(dialog: ReactNode, environments: unknown[] = []) {
  const client = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity } } });
  client.setQueryData(keys.environments, { items: environments });
  render(<QueryClientProvider client={client}>{dialog}</QueryClientProvider>);
}

const season = { name: 'season', kind: 'integer', required: true, list: false, allowed: [], question: 'Which year?' };
const region = {
  ...{ name: 'region', kind: 'text', required: false, list: false, question: '' },
  ...{ defaultValue: 'SEE', allowed: ['SEE', 'LAR'] },
};

describe('the dialog that starts a run', () => {
  it('asks until what is needed is there, and sends only what was filled in', () => {
    const start = vi.fn();
    shown(
      <StartDialog job="hut-list" questions={{ parameters: [season, region] }} start={start} leave={() => undefined} />,
    );
    expect(screen.getByText('Still needed: season')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Start' }).hasAttribute('disabled')).toBe(true);
    fireEvent.change(screen.getByLabelText(/^season/), { target: { value: '2027' } });
    fireEvent.click(screen.getByRole('button', { name: 'Start' }));
    expect(start).toHaveBeenCalledWith({ season: '2027' }, ASKED);
  });

  it('needs the file of a job that is given one', () => {
    const start = vi.fn();
    shown(
      <StartDialog
        job="till-days"
        questions={{ parameters: [], upload: 'till' }}
        start={start}
        leave={() => undefined}
      />,
    );
    expect(screen.getByText('Still needed: the file till')).toBeTruthy();
    const file = new File(['hut;sum'], 'till.csv');
    fireEvent.change(screen.getByLabelText('The file till of this run'), { target: { files: [file] } });
    fireEvent.click(screen.getByRole('button', { name: 'Start' }));
    expect(start).toHaveBeenCalledWith({}, { ...ASKED, file });
  });

  it('takes a file in place of what the job reads', () => {
    const start = vi.fn();
    shown(<StartDialog job="hut-list" questions={{ parameters: [] }} start={start} leave={() => undefined} />);
    const file = new File(['Hut no.'], 'spring.csv');
    fireEvent.change(screen.getByLabelText('File in place of what the job reads'), { target: { files: [file] } });
    fireEvent.click(screen.getByRole('button', { name: 'Start' }));
    expect(start).toHaveBeenCalledWith({}, { ...ASKED, file });
  });

  it('says on its button what the run is for', () => {
    const start = vi.fn();
    shown(<StartDialog job="hut-list" questions={{ parameters: [] }} start={start} leave={() => undefined} />);
    fireEvent.click(screen.getByLabelText(/^Hold/));
    fireEvent.click(screen.getByRole('button', { name: 'Start and hold' }));
    expect(start).toHaveBeenCalledWith({}, { ...ASKED, mode: 'hold' });
  });

  it('asks how many rows come first, and which rows it is about', () => {
    const start = vi.fn();
    shown(<StartDialog job="hut-list" questions={{ parameters: [] }} start={start} leave={() => undefined} />);
    fireEvent.click(screen.getByLabelText(/^First rows/));
    fireEvent.change(screen.getByLabelText('How many rows first'), { target: { value: 'some' } });
    expect(screen.getByRole('button', { name: 'Start with these' }).hasAttribute('disabled')).toBe(true);
    fireEvent.change(screen.getByLabelText('How many rows first'), { target: { value: '3' } });
    fireEvent.change(screen.getByLabelText('Rows of the source'), { target: { value: ' 1-9 ' } });
    fireEvent.click(screen.getByRole('button', { name: 'Start with these' }));
    const asked = { ...ASKED, mode: 'first' as const, first: '3', rows: ' 1-9 ' };
    expect(start).toHaveBeenCalledWith({}, asked);
    expect(request(asked)).toEqual({ mode: 'write', first: 3, rows: '1-9' });
  });

  it('offers the allowed values, the default first', () => {
    shown(<StartDialog job="hut-list" questions={{ parameters: [region] }} start={vi.fn()} leave={() => undefined} />);
    const options = screen.getAllByRole('option').map((option) => option.textContent);
    expect(options).toEqual(['SEE', 'LAR']);
  });

  it('asks twice where it is live', () => {
    const start = vi.fn();
    const dialog = <StartDialog job="hut-list" questions={{ parameters: [] }} start={start} leave={() => undefined} />;
    shown(dialog, [{ name: 'live', title: 'The register itself', live: true }]);
    const button = screen.getByRole('button', { name: 'Start' });
    expect(button.hasAttribute('disabled')).toBe(true);
    fireEvent.click(screen.getByLabelText('Yes, in live (The register itself): this is live.'));
    fireEvent.click(button);
    expect(start).toHaveBeenCalledTimes(1);
  });
});
