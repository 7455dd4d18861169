import { afterEach, expect, test, vi } from 'vitest';
import { api, serviceState } from './client';

afterEach(() => vi.unstubAllGlobals());

test('only a call that began after the service was found gone says that it is there again', async () => {
  let answer: (response: Response) => void = () => {};
  const answers = [
    () => new Promise<Response>((resolve) => (answer = resolve)),
    () => Promise.reject(new TypeError('gone')),
    () => Promise.resolve(new Response('{}')),
  ];
  vi.stubGlobal(
    'fetch',
    vi.fn(() => answers.shift()?.()),
  );
  const before = api.get('/jobs');
  await expect(api.get('/runs')).rejects.toThrow('The service can’t be reached.');
  expect(serviceState.isGone()).toBe(true);
  answer(new Response('{}'));
  await before;
  expect(serviceState.isGone()).toBe(true);
  await api.get('/runs');
  expect(serviceState.isGone()).toBe(false);
});
