import type { StepThing } from '@zubrell/core/steps/stepThings';

/** What is read together and changes together, as the browser keeps it. */
export const tags = [
  'session',
  'listing',
  'setup',
  'uses',
  'lanes',
  'openLines',
  'dismissed',
  'decidedLines',
  'line',
  'proof',
  'board',
  'statements',
  'closing',
  'ledger',
  'documents',
  'journals',
  'tax',
  'rates',
  'rules',
  'habits',
  'steps',
  'batches',
  'feeds',
  'questions',
  'attachments',
  'people',
  'records',
  'jobs',
] as const;
export type Tag = (typeof tags)[number];

/** What open lines are seen by. */
const OPEN = ['lanes', 'openLines', 'line'] as const satisfies readonly Tag[];

/** What a step changes for the screens, by the kinds of things that it touched. */
const ofThings: Readonly<Record<StepThing, readonly Tag[]>> = {
  books: ['listing', 'setup', 'records', 'board', 'proof', 'statements', 'closing', ...OPEN],
  account: ['setup', 'uses', 'ledger', 'rules', 'decidedLines', ...OPEN],
  payee: [
    'setup',
    'uses',
    'ledger',
    'documents',
    'rules',
    'habits',
    'questions',
    'decidedLines',
    ...OPEN,
  ],
  costObject: ['setup', 'ledger', 'decidedLines'],
  bankAccount: [
    'setup',
    'board',
    'proof',
    'ledger',
    'batches',
    'feeds',
    'statements',
    'closing',
    ...OPEN,
  ],
  taxCode: ['setup', 'uses', 'tax', 'rules', ...OPEN],
  exchangeRate: ['rates', ...OPEN],
  taxReturn: ['tax', 'setup', 'closing'],
  journalPlan: ['journals', 'board', 'closing'],
  batch: ['batches', 'feeds', 'board', 'proof', 'statements', 'closing', ...OPEN],
  lineHere: ['batches', 'board', 'proof', 'statements', 'closing', 'decidedLines', ...OPEN],
  entry: ['ledger', 'journals', 'proof', 'board', 'documents', 'statements', 'closing'],
  document: ['documents', 'ledger', 'proof', ...OPEN],
  offset: ['documents', 'ledger'],
  line: [
    'decidedLines',
    'proof',
    'board',
    'statements',
    'closing',
    'ledger',
    'documents',
    'rules',
    'habits',
    'batches',
    ...OPEN,
  ],
  twice: ['proof', 'statements', 'closing', 'decidedLines', ...OPEN],
  statement: ['statements', 'closing', 'setup', 'board', 'lanes', 'openLines'],
  statementDay: ['statements', 'closing'],
  closing: ['closing', 'board', 'setup', 'lanes', 'openLines'],
  lineReview: ['closing'],
  question: ['questions', 'statements', 'closing', ...OPEN],
  alias: ['habits', ...OPEN],
  dismissal: ['dismissed', ...OPEN],
  rule: ['rules', ...OPEN],
  habitMark: ['habits', ...OPEN],
};

/** What changes without being a thing of a step. */
const withoutStep = {
  session: ['session'],
  listing: ['listing'],
  preferences: ['setup'],
  proposals: OPEN,
  batchAsked: ['batches', 'board'],
  feed: ['feeds'],
  member: ['people', 'setup', 'listing', 'records'],
  attachment: ['attachments', 'line', 'closing'],
  job: ['jobs', 'batches', 'feeds'],
} as const satisfies Readonly<Record<string, readonly Tag[]>>;

/** What a command touches. */
export type Touched = StepThing | keyof typeof withoutStep;

const ofTouched: Readonly<Record<Touched, readonly Tag[]>> = { ...ofThings, ...withoutStep };

/** What things can be said to touch, as a schema wants them. */
export const touchedThings = Object.keys(ofTouched) as [Touched, ...Touched[]];

/**
 * What has to be read anew when these were touched.
 *
 * @example tagsOf(['offset']) // ['documents', 'ledger', 'steps']
 */
export function tagsOf(touched: readonly Touched[]): Tag[] {
  const isStep = touched.some((each) => Object.hasOwn(ofThings, each));
  return [
    ...new Set([
      ...touched.flatMap((each) => ofTouched[each]),
      ...(isStep ? (['steps'] as const) : []),
    ]),
  ];
}
