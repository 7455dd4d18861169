import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { CrosswalkView } from '../../api/client';
import { TryValue } from './TryValue';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const crosswalk: CrosswalkView = {
  ...{ name: 'region', title: 'Regions', version: 2, entries: 3, document: '', savedAt: '2026-05-01T00:00:00Z' },
  savedBy: 'ada',
};

function trying(answer: () => Response) {
  const asked: string[] = [];
  vi.stubGlobal('fetch', (path: string) => {
    asked.push(path);
    return Promise.resolve(answer());
  });
  render(
    <QueryClientProvider client={new QueryClient()}>
      <TryValue crosswalk={crosswalk} />
    </QueryClientProvider>,
  );
  return asked;
}

describe('a value that is tried', () => {
  it('shows what it becomes and by which entry', async () => {
    const asked = trying(() =>
      Response.json({
        ...{ crosswalk: 'region', version: 2, value: 'South & East', translation: 'SRI', kind: 'like' },
        ...{ entry: 'South*', entryScope: '', line: 9 },
      }),
    );
    fireEvent.change(screen.getByLabelText('Value'), { target: { value: 'South & East' } });
    expect(await screen.findByText('SRI')).toBeTruthy();
    expect(screen.getByText(/by like: South\*/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'line 9' }).getAttribute('href')).toBe('#line-9');
    expect(asked).toEqual(['/api/v1/crosswalks/region/translation?value=South%20%26%20East']);
  });

  it('says so where there is no translation', async () => {
    trying(() => Response.json({ detail: "The crosswalk region has no translation of 'x'." }, { status: 422 }));
    fireEvent.change(screen.getByLabelText('Value'), { target: { value: 'x' } });
    expect(await screen.findByText("The crosswalk region has no translation of 'x'.")).toBeTruthy();
  });
});
