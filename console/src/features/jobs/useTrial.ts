import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useRef } from 'react';
import { api } from '../../api/client';
import type { FileView, JobTrial } from '../../api/client';
import { keys } from '../../api/keys';
import { useSettled } from '../../lib/useSettled';
import { readingPart } from './trial';

const PAUSE = 500;

/** What a text that is being written makes of so many first rows; the file is fetched once. */
export function useTrial(job: string, text: string, rows: number) {
  const settled = useSettled(text, PAUSE);
  const fetched = useRef<{ reading: string; source: FileView } | undefined>(undefined);
  return useQuery({
    queryKey: keys.trial(job, settled, rows),
    queryFn: async () => {
      const reading = readingPart(settled);
      const known = fetched.current?.reading === reading ? fetched.current.source : undefined;
      const source = known ? `&source=${known.hash}&sourceName=${encodeURIComponent(known.name)}` : '';
      const trial = await api.postDocument<JobTrial>(`/jobs/trial?file=${job}.yaml&rows=${rows}${source}`, settled);
      fetched.current = trial.source ? { reading, source: trial.source } : undefined;
      return trial;
    },
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: Infinity,
  });
}
