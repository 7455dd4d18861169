import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { LedgerRowView, Page, RunView } from '../../api/client';
import { LedgerTable } from './LedgerTable';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const run = {
  ...{ id: 7, state: 'finished', keyFields: ['hut_code'] },
  balance: { writes: [{ write: 'hut', connection: 'register', records: 'hut', keyFields: ['hut_code'] }] },
} as unknown as RunView;

function line(row: number, more: Partial<LedgerRowView>): LedgerRowView {
  return {
    ...{ row, line: row + 1, source: 'huts.csv', write: 'hut', key: [`H-${row}`], outcome: 'updated', note: '' },
    ...{ changes: [], ...more },
  } as LedgerRowView;
}

/** Answers each path with a page; what is asked for is noted. */
function table(pages: Record<string, Page<LedgerRowView>>, outcomes: string[], of: RunView = run) {
  const asked: string[] = [];
  vi.stubGlobal('fetch', (path: string) => {
    asked.push(path);
    const page = pages[path];
    return Promise.resolve(
      page ? Response.json(page) : Response.json({ detail: 'The ledger is away.' }, { status: 500 }),
    );
  });
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter>
        <LedgerTable run={of} outcomes={outcomes} />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return asked;
}

const PATH = '/api/v1/runs/7/ledger?limit=100';

describe('lines of the ledger', () => {
  it('show what was and what is, and blanks as such', async () => {
    const changes = [
      { field: 'beds', before: '8', after: '12' },
      { field: 'phone', before: '0664', after: undefined },
    ];
    table({ [`${PATH}&outcome=updated`]: { items: [line(3, { changes })] } }, ['updated']);
    expect(await screen.findByText('H-3')).toBeTruthy();
    const cells = [...screen.getByRole('table', { name: 'Rows' }).querySelectorAll('tbody td')];
    expect(cells[0]?.textContent).toBe('beds 8 → 12phone 0664 → (empty)');
    expect(screen.getByText('Was → is')).toBeTruthy();
  });

  it('lead from a written record to its history', async () => {
    table({ [`${PATH}&outcome=updated`]: { items: [line(3, { key: ['H & 3'] })] } }, ['updated']);
    const link = await screen.findByRole('link', { name: 'H & 3' });
    expect(link.getAttribute('href')).toBe('/connections/register/hut/history?key=hut_code%3DH%20%26%203');
  });

  it('let a person leave rows of a held run out', async () => {
    const held = { ...run, state: 'held', planned: true } as RunView;
    const left = line(4, { leftOut: true });
    const asked = table({ [`${PATH}&outcome=updated`]: { items: [line(3, {}), left] } }, ['updated'], held);
    const boxes = await screen.findAllByRole<HTMLInputElement>('checkbox');
    expect(boxes.map((box) => box.checked)).toEqual([true, false]);
    expect(screen.queryByRole('link')).toBeNull();
    fireEvent.click(screen.getByLabelText('Write row 3'));
    expect(boxes[0]?.checked).toBe(false);
    await vi.waitFor(() => expect(asked).toContain('/api/v1/runs/7/left-out'));
  });

  it('leave the key out of new records, where it stands in front', async () => {
    const changes = [
      { field: 'hut_code', after: 'H-4' },
      { field: 'name', after: 'Larch Hut' },
      { field: 'opens', after: undefined },
    ];
    const path = `${PATH}&outcome=inserted`;
    table({ [path]: { items: [line(4, { outcome: 'inserted', changes })] } }, ['inserted']);
    expect((await screen.findByText('Larch Hut')).className).toBe('new');
    expect(screen.queryByText('hut_code', { selector: 'td .mono' })).toBeNull();
    expect(screen.queryByText('opens')).toBeNull();
  });

  it('name the write where there are several', async () => {
    const several = {
      ...run,
      balance: {
        writes: [
          { write: 'order', keyFields: ['order_no'] },
          { write: 'line', keyFields: ['line_no'] },
        ],
      },
    } as unknown as RunView;
    const rows = [line(1, { write: 'order', key: ['O-1'] }), line(1, { write: 'line', key: ['O-1', '2'] })];
    table({ [PATH]: { items: rows } }, [''], several);
    expect(await screen.findByText('O-1 · 2')).toBeTruthy();
    expect(screen.getByRole('columnheader', { name: 'Write' })).toBeTruthy();
    expect(screen.getByText('line', { selector: 'td' })).toBeTruthy();
  });

  it('come page by page', async () => {
    const asked = table(
      {
        [PATH]: { items: [line(1, {})], next: 'n1' },
        [`${PATH}&cursor=n1`]: { items: [line(2, { outcome: 'skipped', note: 'filtered', key: [] })] },
      },
      [''],
    );
    fireEvent.click(await screen.findByRole('button', { name: 'Show more' }));
    expect(await screen.findByText('filtered')).toBeTruthy();
    expect(screen.getByText('no key')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Show more' })).toBeNull();
    expect(asked).toEqual([PATH, `${PATH}&cursor=n1`]);
  });

  it('say so where there are none, and where they can not be read', async () => {
    table({ [`${PATH}&outcome=skipped`]: { items: [] } }, ['skipped']);
    expect(await screen.findByText('There are no such rows.')).toBeTruthy();
    cleanup();
    table({}, ['skipped']);
    expect(await screen.findByText(/The ledger is away/)).toBeTruthy();
  });
});
