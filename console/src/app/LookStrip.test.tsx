import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { api } from '../api/client';
import { LookStrip } from './LookStrip';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const look = (rows: number) => ({ id: 'a1', what: 'profile', state: 'looking', rows, askedAt: '2026-05-01T07:00:00Z' });

function answer(status: number, body: unknown) {
  return new Response(JSON.stringify(body), { status, headers: { Location: '/api/v1/looks/a1/result' } });
}

it('shows how far a look is until its result comes, and stops it', async () => {
  const calls: string[] = [];
  const answers: ((response: Response) => void)[] = [];
  vi.stubGlobal('fetch', (address: string) => {
    calls.push(address);
    return new Promise<Response>((resolve) => answers.push(resolve));
  });
  render(<LookStrip />);
  const profile = api.post<{ rows: number }>('/sources/profile', {});
  answers[0]?.(answer(202, look(0)));
  await screen.findByText('Under way: profile');
  expect(calls[1]).toBe('/api/v1/looks/a1/result');
  answers[1]?.(answer(202, look(120_000)));
  await screen.findByText('120,000 rows read');
  fireEvent.click(screen.getByRole('button', { name: 'Stop' }));
  expect(calls).toContain('/api/v1/looks/a1/stop');
  await act(async () => {
    answers[2]?.(answer(200, { rows: 7 }));
    expect(await profile).toEqual({ rows: 7 });
  });
  expect(screen.queryByText(/Under way/)).toBeNull();
});
