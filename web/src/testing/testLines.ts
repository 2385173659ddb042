import type { Coding } from '@zubrell/contract/coding';
import type { DeskLine, Proposal, Stack } from '@zubrell/contract/desk';

/** A coding of a whole line to one of the test books' accounts. */
export function testCoding(accountId: string, payeeId: string | null = null): Coding {
  const part = { accountId, taxCodeId: null, share: { kind: 'rest' }, tax: null } as const;
  return { payeeId, note: null, parts: [part] };
}

/** A proposal by look-alikes, without a doubt. */
export function testProposal(accountId: string, change: Partial<Proposal> = {}): Proposal {
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
    lastStep: 1,
    proposal: testProposal('6010'),
    sureness: 0.99,
    draft: null,
    draftVersion: 0,
    asked: null,
    held: null,
    twiceOf: null,
    decision: null,
    ...change,
  };
}

/** A stack of the Desk. */
export function testStack(change: Partial<Stack> = {}): Stack {
  return {
    grouping: 'lookAlikes',
    key: 'TIDEMARK FRT',
    direction: 'out',
    title: 'TIDEMARK FRT',
    count: 3,
    total: -12_940,
    firstDate: '2026-03-03',
    lastDate: '2026-03-17',
    smallest: 3_920,
    largest: 4_850,
    proposal: testProposal('6010'),
    draft: null,
    draftCount: 0,
    twiceCount: 0,
    heldCount: 0,
    held: null,
    answeredCount: 0,
    accountCount: 1,
    pairCount: 0,
    ...change,
  };
}
