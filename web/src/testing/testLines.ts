import type { Coding } from '@zubrell/contract/coding';
import type { DeskLine, LineSheet, Proposal, Stack } from '@zubrell/contract/desk';
import type { AccountId, PayeeId } from '@zubrell/core/ids';

/** A coding of a whole line to one of the test books' accounts. */
export function testCoding(accountId: AccountId, payeeId: PayeeId | null = null): Coding {
  const part = { accountId, taxCodeId: null, share: { kind: 'rest' }, tax: null } as const;
  return { payeeId, note: null, parts: [part] };
}

/** A proposal by look-alikes, without a doubt. */
export function testProposal(accountId: AccountId, change: Partial<Proposal> = {}): Proposal {
  const coding = testCoding(accountId, 'tidemark');
  const grounds = [{ kind: 'lookAlikes', times: 7, of: 7, accountId }];
  return {
    kind: 'post',
    source: 'habit',
    coding,
    grounds,
    doubts: [],
    ...change,
  } as Proposal;
}

/** An open line of the Desk. */
export function testLine(id: string, change: Partial<DeskLine> = {}): DeskLine {
  return {
    id,
    bankAccountId: 'everyday',
    date: '2026-03-03',
    amount: -4_850,
    description: `TIDEMARK FRT ${id}`,
    stem: 'TIDEMARK FRT',
    proposal: testProposal('6010'),
    sureness: 0.99,
    draft: null,
    draftVersion: 0,
    asked: null,
    answer: null,
    held: null,
    twiceOf: null,
    decision: null,
    ...change,
  };
}

/** All there is to know of a line. */
export function testSheet(line: DeskLine, change: Partial<LineSheet> = {}): LineSheet {
  return {
    ...line,
    valueDate: null,
    reference: null,
    payee: null,
    type: null,
    bankId: null,
    chequeNumber: null,
    counterparty: null,
    category: null,
    cardholder: null,
    original: null,
    balance: null,
    entryId: null,
    sightings: [{ batchId: 'b', fileName: 'march.csv', place: 12, at: '2026-04-01T09:00:00Z' }],
    history: [],
    first: null,
    ...change,
  };
}

/** A stack of open lines. */
export function testStack(key: string, change: Partial<Stack> = {}): Stack {
  return {
    grouping: 'lookAlikes',
    key,
    direction: 'out',
    title: key,
    count: 3,
    total: -14_550,
    currency: 'EUR',
    firstDate: '2026-03-03',
    lastDate: '2026-03-24',
    smallest: 4_850,
    largest: 4_850,
    proposal: testProposal('6010'),
    draft: null,
    draftCount: 0,
    twiceCount: 0,
    heldCount: 0,
    held: null,
    answeredCount: 0,
    answer: null,
    accountCount: 3,
    pairCount: 0,
    equalLines: null,
    equalCount: 0,
    ...change,
  };
}
