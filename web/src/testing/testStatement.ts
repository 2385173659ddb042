import type { Explanation, Statement, StatementRow } from '@zubrell/contract/statements';
import type { Answers } from './renderInBooks.tsx';

/** A line of a statement, for tests. */
export function testRow(more: Partial<StatementRow> & Pick<StatementRow, 'id'>): StatementRow {
  return {
    kind: 'line',
    entryId: null,
    date: '2026-02-14',
    day: null,
    text: 'ORRIN MOBILE',
    payeeId: null,
    accountIds: ['6010'],
    cardholder: null,
    amount: -5_800,
    runsTo: 94_200,
    state: 'posted',
    isLate: false,
    isCounted: true,
    ...more,
  };
}

/** What is in {@link testStatement}. */
export const testRows: readonly StatementRow[] = [
  testRow({ id: 'first' }),
  testRow({ id: 'copy', date: '2026-02-16', runsTo: 88_400 }),
];

/** What the server answers of the rows of {@link testStatement}, all on one page. */
export function rowsAnswer(items: readonly StatementRow[] = testRows): Answers {
  return {
    'GET /bank-accounts/everyday/statements/2026-02-28/rows': { items, next: null },
  };
}

/** A statement of February that adds up to 884.00, for tests. */
export function testStatement(more: Partial<Statement> = {}): Statement {
  return {
    bankAccountId: 'everyday',
    from: '2026-02-01',
    to: '2026-02-28',
    state: 'open',
    opening: 100_000,
    lineCount: 2,
    openCount: 0,
    askedCount: 0,
    addsUp: 88_400,
    closing: 88_400,
    isClosingTyped: true,
    off: 0,
    agreedBy: null,
    agreedAt: null,
    changedCount: 0,
    seenStep: 7,
    isTicked: false,
    payment: null,
    statedOpening: null,
    before: null,
    after: '2026-03-31',
    hasHolders: false,
    elsewhere: [],
    named: [],
    outstanding: [],
    explanations: [],
    dismissedCount: 0,
    hindrances: [],
    changes: [],
    ...more,
  };
}

/** Why a statement may be off by 58.00: the line `copy` is the line `first` again. */
export const testSameTwice: Explanation['causes'][number] = {
  kind: 'sameTwice',
  amount: 5_800,
  lineIds: ['copy', 'first'],
  instead: null,
  move: null,
  from: null,
  to: null,
  reasons: ['sameWording'],
};
