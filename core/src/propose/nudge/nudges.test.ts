import { describe, expect, it } from 'vitest';
import type { AccountType } from '../../ledger/buildLegs.ts';
import { wholeLineCoding } from '../../ledger/coding.ts';
import type { PastCoding } from '../habit/proposeFromHabit.ts';
import { laneOf } from '../proposal.ts';
import { type ProposalBooks, proposeFor } from '../proposeFor.ts';
import { doubtLabel, doubtWords } from '../words.ts';
import type { NudgedLine } from './nudgeProposal.ts';
import { nudgeOfWording } from './nudges.ts';

const TYPES: Readonly<Record<string, AccountType>> = {
  clay: 'expense',
  sales: 'income',
  loans: 'liability',
};
const books: ProposalBooks = {
  assetThreshold: 80_000,
  demands: {},
  accountOfRole: (role) => role,
  accountType: (id) => TYPES[id] ?? 'asset',
  isDismissed: () => false,
};

function line(description: string, amount: number, change: Partial<NudgedLine> = {}): NudgedLine {
  const facts = { reference: null, type: null, category: null, stem: description };
  return { description, amount, ...facts, ...change };
}

function past(accountId: string, times: number, largeTimes = 0): PastCoding {
  return {
    accountId,
    payeeId: 'payee',
    taxCodeId: '20',
    times,
    largeTimes,
    lastStep: 1,
    isAccountOn: true,
  };
}

const propose = (
  of: NudgedLine,
  own: readonly PastCoding[] = [],
  other: readonly PastCoding[] = [],
  withBooks = books,
) => proposeFor(of, { past: own, pastOfOther: other, fromFile: null }, withBooks);

describe('what a wording says a line is', () => {
  it.each([
    ['DD LOAN 88-204 INSTALMENT', 'loan'],
    ['FT INES VARGA WAGES', 'wages'],
    ['Umsatzsteuer 03/26', 'taxPayment'],
    ['ATM 0417 GARRAN', 'cash'],
    ['THISTLEDOWN FESTIVAL STALL DEPOSIT', 'deposit'],
    ['FT M OAKES DRAWINGS', 'owner'],
  ])('%s: %s', (description, kind) => {
    expect(nudgeOfWording(line(description, -5_000))?.kind).toBe(kind);
  });

  it('is nothing where a word only holds another', () => {
    expect(nudgeOfWording(line('TAXI GARRAN DEPOSITORY ATMOS', -5_000))).toBeNull();
  });

  it('is cash by the category of the merchant or the type of the line', () => {
    expect(nudgeOfWording(line('WICK & ALDER 4', -5_000, { category: '6011' }))?.kind).toBe('cash');
    expect(nudgeOfWording(line('WICK & ALDER 4', -5_000, { type: 'ATM' }))?.kind).toBe('cash');
  });
});

describe('a nudge', () => {
  it('proposes the account for a line that nothing else is known of, in Check', () => {
    const proposal = propose(line('DD LOAN 88-204', -41_000));
    expect(proposal).toMatchObject({
      source: 'starter',
      grounds: [{ kind: 'word', word: 'LOAN' }],
    });
    expect(proposal?.coding.parts[0]?.accountId).toBe('loans');
    expect(laneOf(proposal)).toBe('check');
    const [doubt] = proposal?.doubts ?? [];
    expect(doubt && doubtLabel(doubt)).toBe('looks like a loan');
    expect(doubt && doubtWords(doubt, () => '2400 Loans')).toMatch(/only its interest is: 2400/);
  });

  it('doubts a running cost, until look-alikes have settled it', () => {
    expect(propose(line('LOAN 88-204', -41_000), [past('clay', 2)])?.doubts).toContainEqual({
      kind: 'nudge',
      nudge: 'loan',
      accountId: 'loans',
    });
    expect(laneOf(propose(line('LOAN 88-204', -41_000), [past('clay', 3)]))).toBe('ready');
    expect(laneOf(propose(line('LOAN 88-204', -41_000), [past('loans', 3)]))).toBe('ready');
  });

  it('points to fixed assets above the threshold only, and not where such amounts are usual', () => {
    const wheel = (amount: number, large: number) =>
      propose(line('KESTREL WHEELWORKS', amount), [past('clay', 5, large)]);
    expect(laneOf(wheel(-79_999, 0))).toBe('ready');
    expect(wheel(-80_000, 1)?.doubts).toEqual([
      { kind: 'nudge', nudge: 'fixedAsset', accountId: 'fixedAssets' },
    ]);
    expect(laneOf(wheel(-80_000, 2))).toBe('ready');
    const unbothered = { ...books, assetThreshold: null };
    expect(laneOf(propose(line('WHEEL', -900_000), [past('clay', 5)], [], unbothered))).toBe(
      'ready',
    );
  });

  it('takes money back from a supplier to where the cost went, with its tax', () => {
    const refund = propose(line('PENHALLOW CLAY', 4_800), [], [past('clay', 9)]);
    expect(refund?.coding).toEqual(wholeLineCoding('clay', 'payee', '20'));
    expect(refund?.doubts).toEqual([{ kind: 'nudge', nudge: 'refund', accountId: 'clay' }]);
    expect(propose(line('A CUSTOMER', -4_800), [], [past('sales', 9)])).toBeNull();
  });

  it('is not given any more once it was dismissed', () => {
    const content = { ...books, isDismissed: () => true };
    expect(propose(line('DD LOAN 88-204', -41_000), [], [], content)).toBeNull();
    expect(propose(line('PENHALLOW', 4_800), [], [past('clay', 9)], content)).toBeNull();
    expect(laneOf(propose(line('WHEEL', -90_000), [past('clay', 5)], [], content))).toBe('ready');
  });
});

describe('a proposal that lacks what the books demand', () => {
  it('waits in Check and says what is missing', () => {
    const demanding = { ...books, demands: { expense: ['jobId', 'payeeId'] as const } };
    const proposal = propose(line('PENHALLOW CLAY', -4_800), [past('clay', 9)], [], demanding);
    expect(proposal?.doubts).toEqual([{ kind: 'incomplete', missing: ['jobId'] }]);
    const [doubt] = proposal?.doubts ?? [];
    expect(doubt && doubtLabel(doubt)).toBe('a job missing');
  });
});
