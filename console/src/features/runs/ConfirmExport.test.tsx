import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { RunView } from '../../api/client';
import { ConfirmExport } from './ConfirmExport';

const RUN = { id: 12, fields: ['hut', 'beds'], keyFields: ['hut'] } as RunView;

const FOUND = {
  run: 12,
  export: 'export.csv',
  issued: 3,
  confirmed: 1,
  differs: 1,
  missing: 1,
  others: 1,
  differences: [
    {
      write: 'huts',
      key: ['H-011'],
      row: 2,
      found: 'differs',
      fields: [{ field: 'beds', written: '67', now: '71' }],
    },
    { write: 'huts', key: ['H-019'], row: 3, found: 'missing', fields: [] },
  ],
};

function answer(body: unknown) {
  return new Response(JSON.stringify(body), { headers: { 'content-type': 'application/json' } });
}

/** Shows the comparison of a run; the answer is what it asks the service for. */
function show(run: RunView) {
  const fetched = vi.fn<(address: string) => Promise<Response>>((address) =>
    Promise.resolve(answer(address.includes('/files?') ? { hash: 'abc', name: 'export.csv', size: 9 } : FOUND)),
  );
  vi.stubGlobal('fetch', fetched);
  render(
    <QueryClientProvider client={new QueryClient()}>
      <ConfirmExport run={run} />
    </QueryClientProvider>,
  );
  return fetched;
}

describe('the comparison with an export', () => {
  afterEach(() => {
    cleanup();
    vi.unstubAllGlobals();
  });

  it('sends the file and shows what differs', async () => {
    const fetched = show(RUN);
    const file = new File(['beds;hut'], 'export.csv');
    fireEvent.change(screen.getByLabelText('Compare with an export'), { target: { files: [file] } });
    expect((await screen.findByRole('status')).textContent).toBe(
      '3 rows issued: 1 confirmed by export.csv, 1 different, 1 missing there; 1 other row in it.',
    );
    expect(fetched.mock.calls.map(([address]) => address).at(-1)).toContain(
      '/runs/12/confirm?file=abc&name=export.csv',
    );
    const cells = screen.getAllByRole('row').map((row) => row.textContent);
    expect(cells).toEqual(['RecordFoundWritten → in the exportFrom row', 'H-011differsbeds 67 → 712', 'H-019missing3']);
  });

  it('asks for a key where the job has none', async () => {
    const fetched = show({ ...RUN, fields: ['hut', 'day & night', 'beds'], keyFields: [] });
    const chosen = screen.getByLabelText<HTMLInputElement>('Compare with an export');
    expect(chosen.disabled).toBe(true);
    fireEvent.click(screen.getByLabelText('hut'));
    fireEvent.click(screen.getByLabelText('beds'));
    fireEvent.click(screen.getByLabelText('day & night'));
    fireEvent.click(screen.getByLabelText('beds'));
    expect(chosen.disabled).toBe(false);
    fireEvent.change(chosen, { target: { files: [new File(['beds;hut'], 'export.csv')] } });
    await screen.findByRole('status');
    expect(fetched.mock.calls.map(([address]) => address).at(-1)).toContain(
      '/runs/12/confirm?file=abc&name=export.csv&key=hut&key=day%20%26%20night',
    );
  });
});
