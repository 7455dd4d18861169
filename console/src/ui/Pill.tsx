import type { ReactNode } from 'react';

export function Pill({ tone, children }: { tone: 'calm' | 'needs' | 'bad'; children: ReactNode }) {
  return <span className={`pill pill-${tone}`}>{children}</span>;
}
