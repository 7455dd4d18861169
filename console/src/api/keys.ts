/**
 * The names under which answers are kept. What begins with the same words is asked anew together, so whoever changes
 * something names what has changed here.
 */
export const keys = {
  jobs: ['jobs'],
  job: (name: string) => ['jobs', name],
  trial: (job: string, text: string, rows: number) => ['trial', job, text, rows],
  runs: ['runs'],
  run: (id: string) => ['runs', id],
  log: (run: string, state: string) => ['runs', run, 'log', state],
  notices: (run: string, state: string) => ['runs', run, 'notices', state],
  runsOf: (job: string) => ['runs', 'of', job],
  comparison: (run: string) => ['comparison', run],
  history: (connection: string, records: string, key: string[]) => ['history', connection, records, key],
  why: (address: string, query: string, field: string) => ['why', address, query, field],
  found: (connection: string, records: string, question: unknown) => ['found', connection, records, question],
  counted: (connection: string, records: string, where: string) => ['counted', connection, records, where],
  gaps: (run: string) => ['runs', run, 'gaps'],
  ledgerOf: (run: string) => ['ledger', run],
  ledger: (run: string, outcome: string) => ['ledger', run, outcome],
  issued: (run: string, state: string) => ['issued', run, state],
  samples: (run: string, outcome: string) => ['ledger', run, outcome, 'samples'],
  proposals: ['rejects', 'proposals'],
  rejects: ['rejects'],
  rejectsOf: (run: string) => ['rejects', run],
  rejectGroups: (run: string, by: string) => ['rejects', run, 'groups', by],
  crosswalks: ['crosswalks'],
  crosswalk: (name: string) => ['crosswalks', name],
  translation: (crosswalk: string, version: number, value: string, scope: string) => [
    'translation',
    crosswalk,
    version,
    value,
    scope,
  ],
  connections: ['connections'],
  connection: (name: string) => ['connections', name],
  filesOf: (connection: string) => ['connections', connection, 'files'],
  recordsOf: (connection: string) => ['connections', connection, 'records'],
  fieldsOf: (connection: string, records: string) => ['connections', connection, 'records', records],
  source: (source: unknown) => ['source', source],
  profile: (source: unknown) => ['profile', source],
  keyAdvice: (source: unknown, connection: string, records: string) => ['keys', source, connection, records],
  kept: ['kept'],
  environments: ['environments'],
  promotionsOf: (job: string) => ['jobs', job, 'promotions'],
} as const;

/** Whether answers under this name are gaps, of whichever run. */
export function areGaps(key: readonly unknown[]): boolean {
  return key.at(-1) === 'gaps';
}
