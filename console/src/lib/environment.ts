import { useQuery } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
import { api } from '../api/client';
import type { EnvironmentView, Page } from '../api/client';
import { chosen } from '../api/environment';
import { keys } from '../api/keys';

function useKnown(): EnvironmentView[] | undefined {
  const known = useQuery({
    queryKey: keys.environments,
    queryFn: () => api.get<Page<EnvironmentView>>('/environments'),
    staleTime: 60_000,
  });
  return known.data?.items;
}

/** All environments by name; none until they are known. */
export function useEnvironments(): EnvironmentView[] {
  return useKnown() ?? [];
}

/** Whether what is chosen is there no more. */
export function useChosenIsGone(): boolean {
  const known = useKnown();
  const name = useSyncExternalStore(chosen.subscribe, chosen.name);
  return known !== undefined && name !== '' && !known.some((one) => one.name === name);
}

/** The name of the chosen environment, or of the only one; empty where there is none or a choice is still to be made. */
export function useEnvironmentName(): string {
  const environments = useEnvironments();
  const name = useSyncExternalStore(chosen.subscribe, chosen.name);
  return name || (environments.length === 1 ? (environments[0]?.name ?? '') : '');
}

/** The live environment of this name; undefined where it is another one, or not live. */
export function useLive(name: string): EnvironmentView | undefined {
  return useEnvironments().find((environment) => environment.live && environment.name === name);
}
