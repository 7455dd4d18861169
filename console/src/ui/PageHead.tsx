import type { ReactNode } from 'react';

interface PageHeadProps {
  title: ReactNode;
  /** One sentence of state. */
  state?: ReactNode;
  crumb?: ReactNode;
  /** At most two. */
  buttons?: ReactNode;
}

export function PageHead({ title, state, crumb, buttons }: PageHeadProps) {
  return (
    <header className="page-head">
      <div>
        {crumb && <div className="crumb">{crumb}</div>}
        <h1>{title}</h1>
        {state && <p>{state}</p>}
      </div>
      {buttons && <div className="d-flex gap-2 flex-shrink-0">{buttons}</div>}
    </header>
  );
}
