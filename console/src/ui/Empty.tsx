import type { ReactNode } from 'react';

/** What to do first, where there is nothing to show yet. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="panel" style={{ maxWidth: 640 }}>
      <div style={{ fontWeight: 650 }}>{title}</div>
      <div className="soft mt-1">{children}</div>
    </div>
  );
}
