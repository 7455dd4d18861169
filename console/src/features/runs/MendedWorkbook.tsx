import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api } from '../../api/client';
import type { FileView, RunView } from '../../api/client';
import { useMay } from '../../lib/session';
import { Question } from '../../ui/Question';

/** The rejects of a run as a workbook, and the way back for it when it is mended. */
export function MendedWorkbook({ run }: { run: RunView }) {
  const go = useNavigate();
  const may = useMay('run');
  const [chosen, setChosen] = useState<File>();
  const send = useMutation({
    mutationFn: async (file: File) => {
      const kept = await api.upload<FileView>(`/files?name=${encodeURIComponent(file.name)}`, file);
      return api.post<RunView>(`/runs/${run.id}/resubmit`, { file: kept.hash, fileName: kept.name });
    },
    onSuccess: (started) => void go(`/runs/${started.id}`),
  });
  const open = may && run.openRejects > 0 && run.endedAt !== undefined && !run.planned;
  return (
    <>
      <a className="btn btn-outline-secondary" href={`/api/v1/rejects/sheet?run=${run.id}`}>
        Mend in a workbook
      </a>
      {open && (
        <label className={`btn btn-outline-secondary mb-0${send.isPending ? ' disabled' : ''}`}>
          Send the mended workbook
          <input
            type="file"
            className="visually-hidden"
            accept=".xlsx,.ods"
            disabled={send.isPending}
            onChange={(event) => {
              setChosen(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
        </label>
      )}
      {send.error && (
        <p className="bad w-100 mb-0" role="alert">
          {send.error.message}
        </p>
      )}
      {chosen && (
        <Question
          title={`Send the rows of ${chosen.name} again?`}
          yes="Send them again"
          environment={run.environment}
          act={() => {
            setChosen(undefined);
            send.mutate(chosen);
          }}
          leave={() => setChosen(undefined)}
        >
          <p>
            What was changed in it corrects the rejects. Only the rows in it go through {run.job} as it is now, in a run
            of their own that writes to {run.targetConnection} {run.targetRecords}.
          </p>
          <p className="soft mb-0">
            Where somebody has decided about a row since the workbook was written, nothing of it counts.
          </p>
        </Question>
      )}
    </>
  );
}
