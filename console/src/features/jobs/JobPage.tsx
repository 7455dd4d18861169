import type { EditorView } from '@codemirror/view';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { Link, useNavigate, useParams } from 'react-router';
import { api, Refused } from '../../api/client';
import type { JobCheck, JobView, Page, ProblemView, RunLine, StartQuestions } from '../../api/client';
import { keys } from '../../api/keys';
import { outcomeParts } from '../../lib/balance';
import { moment, number } from '../../lib/format';
import { runState } from '../../lib/runState';
import { Findings } from '../../ui/Findings';
import { Loaded } from '../../ui/Loaded';
import { PageHead } from '../../ui/PageHead';
import { Pill } from '../../ui/Pill';
import { SplitBar } from '../../ui/SplitBar';
import { Promotions } from './Promotions';
import { start as startRun } from './start';
import { StartDialog } from './StartDialog';
import type { Asked } from './Asked';
import { TextEditor } from './TextEditor';
import { inFormula } from './trial';
import { ColumnChips, TrialTable } from './TrialTable';
import { useMay } from '../../lib/session';
import { useTrial } from './useTrial';

const FEW_ROWS = 4;
const MANY_ROWS = 200;

/** One job: its text, what the check says, and its runs. */
export function JobPage() {
  const { name = '' } = useParams();
  const job = useQuery({ queryKey: keys.job(name), queryFn: () => api.get<JobView>(`/jobs/${name}`) });
  return <Loaded query={job}>{(found) => <JobBody key={found.name} job={found} />}</Loaded>;
}

function JobBody({ job }: { job: JobView }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [text, setText] = useState(job.document);
  /** The version that the text began with: what is saved elsewhere in the meantime never takes it away. */
  const [begun, setBegun] = useState({ version: job.version, document: job.document });
  const changed = text !== begun.document;
  const overtaken = changed && begun.version !== job.version;
  if (!changed && begun.version !== job.version) {
    setBegun({ version: job.version, document: job.document });
    setText(job.document);
  }
  const start = useMutation({
    mutationFn: (wanted: { parameters: Record<string, string>; asked: Asked }) =>
      startRun(job.name, wanted.parameters, wanted.asked),
    onSuccess: (run) => void navigate(`/runs/${run.id}`),
  });
  const [asked, setAsked] = useState<StartQuestions>();
  const ask = useMutation({
    mutationFn: () => api.get<StartQuestions>(`/jobs/${job.name}/questions`),
    onSuccess: setAsked,
  });
  const check = useMutation({
    mutationFn: () => api.postDocument<JobCheck>(`/jobs/check?file=${job.name}.yaml`, text),
  });
  const save = useMutation({
    mutationFn: () => api.postDocument<JobView>(`/jobs?file=${job.name}.yaml&base=${begun.version}`, text),
    onSuccess: (saved) => {
      setBegun({ version: saved.version, document: saved.document });
      return queries.invalidateQueries({ queryKey: keys.jobs });
    },
    onError: () => queries.invalidateQueries({ queryKey: keys.job(job.name) }),
  });
  const mayBuild = useMay('build');
  const mayRun = useMay('run');
  const [wrong, setWrong] = useState(false);
  const trial = useTrial(job.name, text, wrong ? MANY_ROWS : FEW_ROWS);
  const editor = useRef<EditorView | null>(null);
  const edit = (now: string) => {
    setText(now);
    // what was found in an older text says nothing of this one
    check.reset();
    save.reset();
  };
  const refused = [ask.error, start.error, check.error, save.error].find((error) => error !== null);
  const found = refused instanceof Refused ? refused.problems : (check.data?.problems ?? []);
  const findings = distinct([...found, ...(trial.data?.problems ?? job.problems)]);
  return (
    <>
      <PageHead
        crumb={<Link to="/jobs">jobs</Link>}
        title={
          <>
            <span className="mono" style={{ fontSize: 18 }}>
              {job.name}
            </span>{' '}
            {job.draft && <Pill tone="needs">draft with errors</Pill>}
          </>
        }
        state={`${job.title} · version ${job.version}, saved ${moment(job.savedAt)} by ${job.savedBy}`}
        buttons={
          <>
            <Button variant="outline-secondary" disabled={check.isPending} onClick={() => check.mutate()}>
              Check
            </Button>
            {changed && mayBuild && (
              <Button disabled={save.isPending} onClick={() => save.mutate()}>
                Save as version {begun.version + 1}
              </Button>
            )}
            {!changed && mayRun && (
              <Button disabled={job.draft || start.isPending} onClick={() => ask.mutate()}>
                Start a run
              </Button>
            )}
          </>
        }
      />
      {refused && !(refused instanceof Refused && findings.length > 0) && (
        <div className="bad mb-2" role="alert">
          {refused.message}
        </div>
      )}
      <Findings findings={findings} />
      <Promotions job={job} />
      {asked && (
        <StartDialog
          job={job.name}
          questions={asked}
          leave={() => setAsked(undefined)}
          start={(given, wanted) => {
            setAsked(undefined);
            start.mutate({ parameters: given, asked: wanted });
          }}
        />
      )}
      {check.data?.sound && !refused && (
        <p role="status" className="soft">
          Sound; checked against {check.data.checkedAgainst.join(', ') || 'the text alone'}.
        </p>
      )}
      {overtaken && (
        <div className="strip" role="status">
          <span>
            Version {job.version} was saved by {job.savedBy} while this text was being changed. Copy what you need; the
            newest version replaces it.
          </span>
          <Button
            size="sm"
            variant="outline-secondary"
            onClick={() => {
              setBegun({ version: job.version, document: job.document });
              edit(job.document);
            }}
          >
            Take version {job.version}
          </Button>
        </div>
      )}
      <h2>Text</h2>
      {trial.data && <ColumnChips trial={trial.data} pick={(name) => insert(editor.current, inFormula(name))} />}
      <TextEditor value={text} change={edit} made={(view) => (editor.current = view)} />
      <h2>Fields, and what they get of the first rows</h2>
      <p className="soft">
        {trial.data?.source && `Read from ${trial.data.source.name}. `}
        Nothing is written.{' '}
        <Form.Check
          inline
          type="switch"
          id="wrong-rows"
          label={`Only rejected ones of the first ${MANY_ROWS}`}
          checked={wrong}
          onChange={(event) => setWrong(event.target.checked)}
        />
      </p>
      <Loaded query={trial} rows={6}>
        {(tried) =>
          tried.sound ? (
            <TrialTable trial={tried} wrong={wrong} />
          ) : (
            <p className="soft">Rows are shown as soon as the text is sound.</p>
          )
        }
      </Loaded>
      <RunsOfJob name={job.name} />
    </>
  );
}

/** Each finding once: the check and the trial see the same faults. */
function distinct(findings: ProblemView[]): ProblemView[] {
  return [...new Map(findings.map((finding) => [finding.rendered, finding])).values()];
}

function insert(editor: EditorView | null, text: string) {
  editor?.dispatch(editor.state.replaceSelection(text));
  editor?.focus();
}

function RunsOfJob({ name }: { name: string }) {
  const runs = useQuery({
    queryKey: keys.runsOf(name),
    queryFn: () => api.get<Page<RunLine>>(`/runs?job=${name}&limit=20`),
  });
  return (
    <>
      <h2>Runs</h2>
      <Loaded query={runs}>
        {(page) =>
          page.items.length === 0 ? (
            <p className="soft">It never ran.</p>
          ) : (
            <table className="sheet">
              <thead>
                <tr>
                  <th scope="col" className="number">
                    Run
                  </th>
                  <th scope="col" style={{ width: '30%' }}>
                    Balance
                  </th>
                  <th scope="col" className="number">
                    Rows
                  </th>
                  <th scope="col">File</th>
                  <th scope="col" className="number">
                    Version
                  </th>
                  <th scope="col">When</th>
                  <th scope="col">State</th>
                </tr>
              </thead>
              <tbody>
                {page.items.map((run) => (
                  <tr key={run.id}>
                    <th scope="row" className="number">
                      <Link to={`/runs/${run.id}`}>{run.id}</Link>
                    </th>
                    <td>
                      <SplitBar parts={outcomeParts(run.balance)} planned={run.planned} />
                    </td>
                    <td className="number">{number(run.balance.read)}</td>
                    <td>{run.source}</td>
                    <td className="number">{run.jobVersion}</td>
                    <td className="fixed" title={run.createdAt}>
                      {moment(run.createdAt)}
                    </td>
                    <td>
                      <Pill tone={runState(run).tone}>{runState(run).words}</Pill>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )
        }
      </Loaded>
    </>
  );
}
