import { useQuery } from '@tanstack/react-query';
import { api } from '../api/client';
import type { SessionView } from '../api/client';

export type Role = 'look' | 'run' | 'build' | 'administer';

const ROLES: Role[] = ['look', 'run', 'build', 'administer'];

export const SESSION = ['session'];

/** Who is signed in. */
export function useSession() {
  return useQuery({ queryKey: SESSION, queryFn: () => api.get<SessionView>('/session'), staleTime: 60_000 });
}

/** Whether a role may do what another one may. */
export function includes(role: string, needed: Role): boolean {
  return ROLES.indexOf(role as Role) >= ROLES.indexOf(needed);
}

/** Whether whoever is signed in may do what the role may; what they may not do is not offered. */
export function useMay(needed: Role): boolean {
  const session = useSession();
  return session.data !== undefined && includes(session.data.role, needed);
}
