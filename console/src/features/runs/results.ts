import type { RunView } from '../../api/client';

/** The address of what a run has read, with what became of each row beside it; undefined where there are no results. */
export function resultsAddress(run: RunView, file?: string): string | undefined {
  const known = run.endedAt !== undefined || run.state === 'held';
  const own = run.choice.resubmits === undefined && run.undoes === undefined;
  if (!known || !own || read(run).length === 0) {
    return undefined;
  }
  return `/api/v1/runs/${run.id}/results${file === undefined ? '' : `?file=${encodeURIComponent(file)}`}`;
}

/** The files that a run has read, without those in which it has only looked something up. */
export function read(run: RunView) {
  return run.files.filter((file) => !file.lookedUp);
}
