import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { GapView, RunView, SharedChange } from '../../api/client';
import { GapTable } from './GapTable';

const gap: GapView = {
  ...{ crosswalk: 'region', scope: '', value: 'Xarkogel', rows: 3 },
  examples: ['list.xlsx, Xarkogel, row 3'],
};
const change: SharedChange = { name: 'region', version: 2, jobs: ['hut-list'], broken: [], healed: [10, 20] };
let gaps: GapView[];
let posted: unknown[];
let role: string;

beforeEach(() => {
  gaps = [gap];
  posted = [];
  role = 'build';
  vi.stubGlobal('fetch', (path: string, init?: RequestInit) => {
    if (init?.method === 'POST') {
      posted.push([path, JSON.parse(init.body as string)]);
      gaps = [];
      return Promise.resolve(Response.json(change));
    }
    return Promise.resolve(Response.json(path.endsWith('/session') ? { name: 'desk', role } : { items: gaps }));
  });
});

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

function table() {
  render(
    <MemoryRouter>
      <QueryClientProvider client={new QueryClient()}>
        <GapTable run={{ id: 7 } as RunView} />
      </QueryClientProvider>
    </MemoryRouter>,
  );
}

describe('values without a translation', () => {
  it('are listed with their rows and the place of one', async () => {
    table();
    expect(await screen.findByText('Xarkogel')).toBeTruthy();
    expect(screen.getByText('list.xlsx, Xarkogel, row 3')).toBeTruthy();
    expect((await screen.findByRole('button', { name: 'Add' })).hasAttribute('disabled')).toBe(true);
  });

  it('are only shown to whoever may not change the crosswalk', async () => {
    role = 'run';
    table();
    expect(await screen.findByText('Xarkogel')).toBeTruthy();
    await waitFor(() => expect(screen.queryByRole('button', { name: 'Add' })).toBeNull());
  });

  it('are added on the spot, and what that heals is said', async () => {
    table();
    fireEvent.change(await screen.findByLabelText('What Xarkogel becomes'), { target: { value: 'HOH' } });
    fireEvent.click(screen.getByRole('button', { name: 'Add' }));
    await waitFor(() => expect(screen.getByText(/heals 2 open rejects \(10, 20\)/)).toBeTruthy());
    expect(posted).toEqual([['/api/v1/crosswalks/region/entries', { entries: [{ from: 'Xarkogel', to: 'HOH' }] }]]);
    expect(await screen.findByText('Every value of this run has a translation now.')).toBeTruthy();
  });
});
