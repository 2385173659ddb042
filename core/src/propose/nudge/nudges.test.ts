import { describe, expect, it } from 'vitest';
import { wholeLineCoding } from '../../ledger/coding.ts';
import type { AccountType } from '../../ledger/kinds.ts';
import { habitLine, memoryOf, type Past, predicted, times } from '../../testing/decided.ts';
import { laneOf, type PostProposal } from '../proposal.ts';
import { type ProposalBooks, proposeFor } from '../proposeFor.ts';
import { doubtLabel, doubtWords } from '../words.ts';
import { nudgeOfCoding } from './nudgeOfCoding.ts';
import { nudgeOfWording } from './nudges.ts';

const TYPES: Readonly<Record<string, AccountType>> = {
  clay: 'expense',
  sales: 'income',
  loans: 'liability',
};
const books: ProposalBooks = {
  assetThreshold: 80_000,
  demands: {},
  shift: 0,
  isAccountOn: () => true,
  bankLedger: () => null,
  fitsTax: (id) => TYPES[id] !== 'liability',
  accountOfRole: (role) => role,
  drawingsOf: (payeeId) => (payeeId === 'mo' ? 'drawings of Mo' : null),
  betweenAccount: () => null,
  holdsClients: () => false,
  isCustomer: () => false,
  accountType: (id) => TYPES[id] ?? 'asset',
  isDismissed: () => false,
  accountForTrade: () => null,
};

const facts = (description: string) => ({
  description,
  reference: null,
  type: null,
  category: null,
});

/** What is proposed for a line after others were decided. */
function propose(
  description: string,
  amount: number,
  past: readonly Past[] = [],
  withBooks = books,
): PostProposal | null {
  const line = { ...habitLine(description, amount), ...facts(description), stem: description };
  const prediction = predicted(memoryOf(past), line);
  const knowledge = {
    prediction,
    fromPair: null,
    nearly: null,
    fromHalf: null,
    namedAccount: null,
    cardDue: null,
    fromRule: null,
    fromElsewhere: null,
    fromFile: null,
  };
  const proposal = proposeFor(line, knowledge, withBooks)?.proposal ?? null;
  return proposal?.kind === 'post' ? proposal : null;
}

const PENHALLOW = 'PENHALLOW CLAY SUPPLIES';
const clay = (amount: number): Past => [PENHALLOW, amount, 'clay'];

describe('what a wording says a line is', () => {
  it.each([
    ['DD LOAN 88-204 INSTALMENT', 'loan'],
    ['FT INES VARGA WAGES', 'wages'],
    ['Umsatzsteuer 03/26', 'taxPayment'],
    ['ATM 0417 GARRAN', 'cash'],
    ['THISTLEDOWN FESTIVAL STALL DEPOSIT', 'deposit'],
    ['FT M OAKES DRAWINGS', 'owner'],
  ])('%s: %s', (description, kind) => {
    expect(nudgeOfWording(facts(description))?.kind).toBe(kind);
  });

  it('is nothing where a word only holds another', () => {
    expect(nudgeOfWording(facts('TAXI GARRAN DEPOSITORY ATMOS'))).toBeNull();
  });

  it('is cash by the category of the merchant or the type of the line', () => {
    expect(nudgeOfWording({ ...facts('WICK & ALDER 4'), category: '6011' })?.kind).toBe('cash');
    expect(nudgeOfWording({ ...facts('WICK & ALDER 4'), type: 'ATM' })?.kind).toBe('cash');
  });
});

describe('a nudge', () => {
  it('proposes the account for a line that nothing else is known of, in Check', () => {
    const proposal = propose('DD LOAN 88-204', -41_000);
    expect(proposal).toMatchObject({
      source: 'starter',
      grounds: [{ kind: 'word', word: 'LOAN' }],
    });
    expect(proposal?.coding.parts[0]?.accountId).toBe('loans');
    expect(laneOf(proposal)).toBe('check');
    const [doubt] = proposal?.doubts ?? [];
    expect(doubt && doubtLabel(doubt)).toBe('looks like a loan');
    expect(doubt && doubtWords(doubt, () => '2400 Loans')).toMatch(/only the interest is: 2400/);
  });

  it('is not silenced by a faint likeness to something else', () => {
    const others = [
      ...times(6, clay(-4_800)),
      ...times(6, ['ORRIN MOBILE', -2_900, 'phone'] as const),
    ];
    const proposal = propose('LOAN 88-204 INSTALMENT CLAIM', -41_250, others);
    expect(proposal?.coding.parts[0]?.accountId).toBe('loans');
  });

  it('doubts a running cost, until look-alikes have settled it', () => {
    const past = (count: number, account: string) =>
      times(count, ['KESTREL LOAN DESK', -41_000, account]);
    expect(propose('KESTREL LOAN DESK', -41_000, past(2, 'clay'))?.doubts).toContainEqual({
      kind: 'nudge',
      nudge: 'loan',
      accountId: 'loans',
    });
    const isNudged = (proposal: PostProposal | null) =>
      proposal?.doubts.some(({ kind }) => kind === 'nudge');
    expect(isNudged(propose('KESTREL LOAN DESK', -41_000, past(5, 'clay')))).toBe(false);
    expect(isNudged(propose('KESTREL LOAN DESK', -41_000, past(2, 'loans')))).toBe(false);
  });

  it('points to fixed assets above the threshold only, and not where such amounts are usual', () => {
    const isNudged = (amount: number, past: readonly Past[], withBooks = books) =>
      propose(PENHALLOW, amount, past, withBooks)?.doubts.some(
        (doubt) => doubt.kind === 'nudge' && doubt.nudge === 'fixedAsset',
      );
    const usual = times(6, clay(-70_000));
    expect(isNudged(-79_999, usual)).toBe(false);
    expect(isNudged(-80_000, usual)).toBe(true);
    expect(isNudged(-80_000, [...usual, clay(-90_000), clay(-85_000)])).toBe(false);
    expect(isNudged(-80_000, usual, { ...books, assetThreshold: null })).toBe(false);
  });

  it('takes money back from a supplier to where the cost went, with its tax', () => {
    const refund = propose(PENHALLOW, 4_800, times(6, clay(-4_800)));
    expect(refund?.coding).toMatchObject({
      payeeId: 'PENHALLOW CLAY',
      parts: [{ accountId: 'clay', taxCodeId: '20' }],
    });
    expect(refund?.doubts).toEqual([{ kind: 'nudge', nudge: 'refund', accountId: 'clay' }]);
    const sold = times(6, ['NETTLE AND THREAD', 4_800, 'sales']);
    const sale = propose('NETTLE AND THREAD', 4_800, sold);
    expect(sale?.doubts.filter(({ kind }) => kind === 'nudge')).toEqual([]);
  });

  it('takes money back to a customer from where the sale went', () => {
    const sold = times(6, ['NETTLE AND THREAD', 4_800, 'sales']);
    const refund = propose('NETTLE AND THREAD', -4_800, sold);
    expect(refund?.coding.parts).toMatchObject([{ accountId: 'sales' }]);
    expect(refund?.doubts).toEqual([{ kind: 'nudge', nudge: 'refund', accountId: 'sales' }]);
  });

  it('is no income for money that goes out under a word of nobody', () => {
    const unknown = { payeeId: null };
    const received: Past = ['INTEREST', 112, 'sales', unknown];
    expect(propose('INTEREST', -421, [received])).toBeNull();
    expect(propose('INTEREST', -421, times(6, received))).toBeNull();
    const both = [received, ['INTEREST', -421, 'clay', unknown] as const];
    const out = propose('INTEREST', -390, [...both, ...both]);
    expect(out?.coding.parts).toMatchObject([{ accountId: 'clay' }]);
    const into = propose('INTEREST', 105, [...both, ...both]);
    expect(into?.coding.parts).toMatchObject([{ accountId: 'sales' }]);
  });

  it('is not given any more once it was dismissed', () => {
    const content = { ...books, isDismissed: () => true };
    expect(propose('DD LOAN 88-204', -41_000, [], content)).toBeNull();
    const large = propose(PENHALLOW, -90_000, times(6, clay(-70_000)), content);
    expect(large?.doubts.filter(({ kind }) => kind === 'nudge')).toEqual([]);
  });
});

describe('a proposal that lacks what the books demand', () => {
  it('waits in Check and says what is missing', () => {
    const demanding = { ...books, demands: { expense: ['jobId', 'payeeId'] as const } };
    const proposal = propose(PENHALLOW, -4_800, times(6, clay(-4_800)), demanding);
    expect(proposal?.doubts).toContainEqual({ kind: 'incomplete', missing: ['jobId'] });
    expect(doubtLabel({ kind: 'incomplete', missing: ['jobId'] })).toBe('a job missing');
  });
});

describe('a coding by hand', () => {
  const asked = (amount: number, account: string, text = 'HARBOUR MACHINES 12') =>
    nudgeOfCoding(
      { ...facts(text), payee: null, amount, stem: text },
      wholeLineCoding(account, null, null),
      books,
    )?.nudge ?? null;

  it('is asked about as a proposal would be: a large purchase, wages and tax to a running cost', () => {
    expect(asked(-124_900, 'clay')).toBe('fixedAsset');
    expect(asked(-5_000, 'clay', 'WAGES MARCH')).toBe('wages');
    expect(asked(-5_000, 'clay', 'VAT Q1')).toBe('taxPayment');
  });

  it('is not where it is small, comes in, or goes to where it belongs', () => {
    expect(asked(-79_999, 'clay')).toBeNull();
    expect(asked(124_900, 'sales')).toBeNull();
    expect(asked(-124_900, 'fixedAssets')).toBeNull();
    expect(asked(-5_000, 'wagesOwed', 'WAGES MARCH')).toBeNull();
  });
});
