import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { JobView, RunLine } from '../../api/client';
import { OverviewPage } from './OverviewPage';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const counts = { read: 250, skipped: 6, rejected: 9, passed: 235, unreached: 0, taken: 235, inserted: 234 };
const rest = { updated: 0, unchanged: 0, deleted: 0, issued: 0, refused: 1, warned: 0, elsewhere: 0, balanced: true };

function job(name: string, lastRun?: Partial<RunLine>): JobView {
  const run = lastRun && {
    ...{ id: 4, state: 'finished', openRejects: 0, createdAt: '2026-05-01T08:00:00Z', reasons: [] },
    ...{ balance: { ...counts, ...rest, steps: [], writes: [] }, ...lastRun },
  };
  return {
    ...{ name, title: `Title of ${name}`, notes: '', version: 1, draft: false, document: '', savedBy: 'ada' },
    ...{ savedAt: '2026-05-01T07:00:00Z', problems: [], lastRun: run },
  } as unknown as JobView;
}

function overview(jobs: JobView[]) {
  vi.stubGlobal('fetch', () => Promise.resolve(Response.json({ items: jobs })));
  render(
    <MemoryRouter>
      <QueryClientProvider client={new QueryClient()}>
        <OverviewPage />
      </QueryClientProvider>
    </MemoryRouter>,
  );
}

describe('the overview', () => {
  it('says what to do first', async () => {
    overview([]);
    expect(await screen.findByText('No job is saved yet.')).toBeTruthy();
    expect(screen.getByText('Nothing has to be balanced yet.')).toBeTruthy();
  });

  it('is calm where everything balanced', async () => {
    overview([job('stays', {}), job('tariffs')]);
    expect(await screen.findByText('2 jobs. Everything balanced.')).toBeTruthy();
    expect(document.querySelector('.needs')).toBeNull();
  });

  it('names what needs somebody, with the way to it', async () => {
    const reasons = [{ sentence: 'More than 5 % were rejected.' }] as RunLine['reasons'];
    const held: Partial<RunLine> = { id: 13, state: 'held', reasons };
    overview([job('stays', { id: 12, openRejects: 8 }), job('tariffs', {}), job('huts', held)]);
    expect(await screen.findByText('3 jobs, 2 need you.')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Look at run 12' }).getAttribute('href')).toBe('/runs/12');
    expect(screen.getByRole('link', { name: 'Look at run 13' })).toBeTruthy();
    expect(document.querySelectorAll('.needs b')).toHaveLength(2);
    expect(screen.getByText(/is held: More than 5 % were rejected./)).toBeTruthy();
  });
});
