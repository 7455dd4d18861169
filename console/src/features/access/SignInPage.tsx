import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useLocation, useNavigate } from 'react-router';
import { api } from '../../api/client';
import type { SessionView } from '../../api/client';
import { SESSION } from '../../lib/session';

const ENTRANCE = '/enter';

/** Opens a session: by the code of a link that leads here, or by a token that is pasted. */
export function SignInPage() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { pathname, hash } = useLocation();
  const [token, setToken] = useState('');
  const open = useMutation({
    mutationFn: (by: { token: string } | { code: string }) => api.post<SessionView>('/session', by),
    onSuccess: async (session) => {
      // whatever somebody else was shown before is gone
      queries.clear();
      queries.setQueryData(SESSION, session);
      if (pathname === ENTRANCE) {
        await navigate('/', { replace: true });
      }
    },
  });
  const { mutate } = open;
  const tried = useRef('');
  useEffect(() => {
    const code = hash.slice(1);
    if (pathname === ENTRANCE && code !== '' && tried.current !== code) {
      tried.current = code;
      mutate({ code });
    }
  }, [pathname, hash, mutate]);
  return (
    <main className="sign-in">
      <h1>Nachlauf</h1>
      <p className="soft">
        Sign in with a link from <code>nachlauf token link</code>, or paste a token.
      </p>
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          open.mutate({ token: token.trim() });
        }}
      >
        <Form.Group controlId="token" className="mb-2">
          <Form.Label>Token</Form.Label>
          <Form.Control
            type="password"
            autoComplete="off"
            autoFocus
            value={token}
            onChange={(event) => setToken(event.target.value)}
          />
        </Form.Group>
        <Button type="submit" disabled={token.trim() === '' || open.isPending}>
          Sign in
        </Button>
      </Form>
      {open.error && (
        <p className="bad mt-3" role="alert">
          {open.error.message}
        </p>
      )}
    </main>
  );
}
