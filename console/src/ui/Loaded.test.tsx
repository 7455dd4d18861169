import { QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { Loaded } from './Loaded';

afterEach(cleanup);

function Page({ answer }: { answer: () => Promise<string> }) {
  const query = useQuery({ queryKey: ['x'], queryFn: answer, retry: false });
  return <Loaded query={query}>{(value) => <p>{value}</p>}</Loaded>;
}

function show(answer: () => Promise<string>) {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Page answer={answer} />
    </QueryClientProvider>,
  );
}

describe('what a query answers', () => {
  it('is announced by grey lines and then shown', async () => {
    show(() => Promise.resolve('240 huts'));
    expect(screen.getByLabelText('Loading')).toBeTruthy();
    expect(await screen.findByText('240 huts')).toBeTruthy();
  });

  it('can fail and be asked for again', async () => {
    let times = 0;
    show(() =>
      ++times === 1 ? Promise.reject(new Error('The service can’t be reached.')) : Promise.resolve('240 huts'),
    );
    expect(await screen.findByText('The service can’t be reached.')).toBeTruthy();
    fireEvent.click(screen.getByText('Try again'));
    expect(await screen.findByText('240 huts')).toBeTruthy();
  });
});
