import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { useLocation } from 'react-router';
import { api, Refused } from '../../api/client';
import { Failed } from '../../ui/Failed';
import { Loading } from '../../ui/Loading';
import { useSession } from '../../lib/session';
import { SignInPage } from './SignInPage';

/** Shows the pages to whoever is signed in, and everybody else how to sign in. */
export function SignedIn({ children }: { children: ReactNode }) {
  const session = useSession();
  const { pathname } = useLocation();
  const signedOut = session.error instanceof Refused && session.error.status === 401;
  if (pathname === '/enter' || signedOut) {
    return <SignInPage />;
  }
  if (session.data === undefined) {
    return session.error ? (
      <main className="sign-in">
        <Failed error={session.error} again={() => void session.refetch()} />
      </main>
    ) : (
      <Loading rows={6} />
    );
  }
  return children;
}

/** Who is signed in, at the foot of the rail. */
export function Who() {
  const session = useSession();
  const queries = useQueryClient();
  const leave = useMutation({
    mutationFn: () => api.remove('/session'),
    onSettled: () => queries.resetQueries(),
  });
  return (
    <div className="rail-who">
      {session.data && (
        <>
          <span className="mono">{session.data.name}</span> may {session.data.role}
        </>
      )}
      <button type="button" className="btn btn-link btn-sm p-0" onClick={() => leave.mutate()}>
        Sign out
      </button>
    </div>
  );
}
