import { inChosen } from './environment';
import { lookResult } from './looks';
import type { components } from './schema';

export type RunLogLine = components['schemas']['RunLogLine'];
export type RunLine = components['schemas']['RunLine'];
export type RunView = components['schemas']['RunView'];
export type NoticeView = components['schemas']['NoticeView'];
export type IssuedFileView = components['schemas']['IssuedFileView'];
export type ConfirmationView = components['schemas']['ConfirmationView'];
export type ControlTotalsView = components['schemas']['ControlTotalsView'];
export type BalanceView = components['schemas']['BalanceView'];
export type StepCountView = components['schemas']['StepCountView'];
export type WriteCountView = components['schemas']['WriteCountView'];
export type JobView = components['schemas']['JobView'];
export type ParameterView = components['schemas']['ParameterView'];
export type StartQuestions = components['schemas']['StartQuestions'];
export type JobCheck = components['schemas']['JobCheck'];
export type JobTrial = components['schemas']['JobTrial'];
export type MapLine = components['schemas']['MapLine'];
export type WriteMap = components['schemas']['WriteMap'];
export type TrialRow = components['schemas']['TrialRow'];
export type CrosswalkView = components['schemas']['CrosswalkView'];
export type TranslationView = components['schemas']['TranslationView'];
export type GapView = components['schemas']['GapView'];
export type SharedChange = components['schemas']['SharedChange'];
export type ProblemView = components['schemas']['ProblemView'];
export type LedgerRowView = components['schemas']['LedgerRowView'];
export type LeftOutView = components['schemas']['LeftOutView'];
export type VerificationView = components['schemas']['VerificationView'];
export type RecordHistoryView = components['schemas']['RecordHistoryView'];
export type RecordChange = RecordHistoryView['items'][number];
export type ProposalView = components['schemas']['ProposalView'];
export type WhyView = components['schemas']['WhyView'];
export type WhyLink = WhyView['way'];
export type RejectView = components['schemas']['RejectView'];
export type RejectGroup = components['schemas']['RejectGroup'];
export type ConnectionView = components['schemas']['ConnectionView'];
export type ConnectionTest = components['schemas']['ConnectionTest'];
export type RecordTypeView = components['schemas']['RecordTypeView'];
export type RecordsView = components['schemas']['RecordsView'];
export type FoundRecords = components['schemas']['FoundRecords'];
export type CountedRecords = components['schemas']['CountedRecords'];
export type FoundFileView = components['schemas']['FoundFileView'];
export type FileView = components['schemas']['FileView'];
export type SourceView = components['schemas']['SourceView'];
export type SourceFieldView = components['schemas']['SourceFieldView'];
export type SourceRowView = components['schemas']['SourceRowView'];
export type OptionView = components['schemas']['OptionView'];
export type ProfileView = components['schemas']['ProfileView'];
export type FieldProfileView = components['schemas']['FieldProfileView'];
export type KeyAdviceView = components['schemas']['KeyAdviceView'];
export type ValueCountView = components['schemas']['ValueCountView'];
export type FieldView = components['schemas']['FieldView'];
export type EnvironmentView = components['schemas']['EnvironmentView'];
export type PromotionView = components['schemas']['PromotionView'];
export type KeptView = components['schemas']['KeptView'];
export type KeptLine = components['schemas']['KeptLine'];
export type SessionView = components['schemas']['SessionView'];

export interface Page<T> {
  items: T[];
  next?: string;
}

/** The service said no; its findings say why. */
export class Refused extends Error {
  readonly status: number;
  readonly problems: ProblemView[];

  constructor(message: string, status: number, problems: ProblemView[]) {
    super(message);
    this.status = status;
    this.problems = problems;
  }
}

/** The service does not answer. */
export class ServiceGone extends Error {}

const listeners = new Set<() => void>();
let gone = false;

function setGone(now: boolean) {
  if (gone !== now) {
    gone = now;
    listeners.forEach((listener) => listener());
  }
}

/** Whether the last call found the service gone. */
export const serviceState = {
  subscribe(listener: () => void) {
    listeners.add(listener);
    return () => {
      listeners.delete(listener);
    };
  },
  isGone: () => gone,
};

/** Calls so far, and how many of them had begun when the service was found gone last. */
let calls = 0;
let goneAt = 0;

/** The answer only names a look that takes longer. */
const UNDER_WAY = 202;

async function call<T>(path: string, init?: RequestInit): Promise<T> {
  calls += 1;
  const number = calls;
  let response: Response;
  try {
    response = await fetch(`/api/v1${inChosen(path)}`, init);
    if (response.status === UNDER_WAY) {
      response = await lookResult(response);
    }
  } catch {
    goneAt = calls;
    setGone(true);
    throw new ServiceGone('The service can’t be reached.');
  }
  // the answer to a call that began before says nothing of now
  if (number > goneAt) {
    setGone(false);
  }
  if (response.ok) {
    return (await response.json()) as T;
  }
  const details = (await response.json().catch(() => ({}))) as { detail?: string; problems?: ProblemView[] };
  throw new Refused(
    details.detail ?? `The service answered with status ${response.status}.`,
    response.status,
    details.problems ?? [],
  );
}

export const api = {
  remove: <T>(path: string) => call<T>(path, { method: 'DELETE' }),
  get: <T>(path: string) => call<T>(path),
  post: <T>(path: string, body?: unknown) =>
    call<T>(path, {
      method: 'POST',
      ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
    }),
  upload: <T>(path: string, file: Blob) =>
    call<T>(path, { method: 'POST', body: file, headers: { 'Content-Type': 'application/octet-stream' } }),
  postDocument: <T>(path: string, document: string) =>
    call<T>(path, { method: 'POST', body: document, headers: { 'Content-Type': 'application/yaml' } }),
};
