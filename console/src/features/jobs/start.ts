import { api } from '../../api/client';
import type { FileView, RunView } from '../../api/client';
import { request } from './Asked';
import type { Asked } from './Asked';

/** Starts a run; a file that it is given goes to the service's store first. */
export async function start(job: string, parameters: Record<string, string>, asked: Asked): Promise<RunView> {
  const kept =
    asked.file && (await api.upload<FileView>(`/files?name=${encodeURIComponent(asked.file.name)}`, asked.file));
  return api.post<RunView>('/runs', {
    job,
    parameters,
    ...(kept ? { file: kept.hash, fileName: kept.name } : {}),
    ...request(asked),
  });
}
