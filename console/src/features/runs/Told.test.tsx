import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { NoticeView, RunView } from '../../api/client';
import { Told } from './Told';

vi.mock('../../lib/session', () => ({ useMay: () => true }));

const RUN = { id: 12, state: 'finished' } as RunView;

function notice(state: string, note: string): NoticeView {
  return {
    id: 1,
    connection: 'mail',
    receivers: [],
    occasions: ['rejects'],
    state,
    note,
    tries: 1,
    due: '2026-05-04T06:00:00Z',
    at: '2026-05-04T05:00:00Z',
  };
}

function shown(...notices: NoticeView[]) {
  const fetched = vi.fn<(address: string) => Promise<Response>>(() =>
    Promise.resolve(
      new Response(JSON.stringify({ items: notices }), { headers: { 'content-type': 'application/json' } }),
    ),
  );
  vi.stubGlobal('fetch', fetched);
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Told run={RUN} />
    </QueryClientProvider>,
  );
  return fetched;
}

describe('who was told', () => {
  afterEach(() => vi.unstubAllGlobals());

  it('says so with the answer', async () => {
    shown(notice('sent', 'Sent to office@union.example.'));
    expect(await screen.findByText('Told over mail (rejects): Sent to office@union.example.')).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });

  it('says what is tried again', async () => {
    shown(notice('wanted', 'mail:25 can’t be reached.'));
    expect(
      await screen.findByText(/Nobody could be told over mail \(rejects\) yet: .* It is tried again /),
    ).toBeTruthy();
  });

  it('offers what was given up once more', async () => {
    const fetched = shown(notice('failed', 'No such mailbox.'));
    fireEvent.click(await screen.findByRole('button', { name: 'Tell them again' }));
    await waitFor(() =>
      expect(fetched.mock.calls.some(([address]) => address.endsWith('/runs/12/notices/again'))).toBe(true),
    );
  });
});
