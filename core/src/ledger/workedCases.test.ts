import { describe, expect, it } from 'vitest';
import { toDecimal } from '../money/formatAmount.ts';
import { parseAmount } from '../money/parseAmount.ts';
import type { SplitPart } from '../money/splitAmount.ts';
import { type SettledTarget, settlePairing } from '../pair/settlePairing.ts';
import { buildLegs, type Leg, type LegLookups, type TaxInForce } from './buildLegs.ts';
import type { Coding } from './coding.ts';
import {
  type DocumentKind,
  type DocumentSide,
  documentAmount,
  documentCoding,
} from './documents.ts';
import { handSettlement } from './handSettlement.ts';
import { type TaxedAccount, taxSide } from './taxSide.ts';

/*
 * Worked by hand: what a bookkeeper codes, and the legs that it has to come to. Debit is positive. A coding is
 * `account`, `account code`, or parts of a split: `30.00 account code | rest account`.
 */

const chart: Readonly<Record<string, TaxedAccount>> = {
  bank: { type: 'asset', role: null, isBank: true, tax: 'byType' },
  pot: { type: 'asset', role: null, isBank: true, tax: 'byType' },
  owed: { type: 'asset', role: 'receivables', isBank: false, tax: 'byType' },
  owing: { type: 'liability', role: 'payables', isBank: false, tax: 'byType' },
  clay: { type: 'expense', role: null, isBank: false, tax: 'byType' },
  freight: { type: 'expense', role: null, isBank: false, tax: 'byType' },
  charges: { type: 'expense', role: null, isBank: false, tax: 'byType' },
  wages: { type: 'expense', role: null, isBank: false, tax: 'byType' },
  stock: { type: 'asset', role: null, isBank: false, tax: 'byType' },
  wheel: { type: 'asset', role: 'fixedAssets', isBank: false, tax: 'byType' },
  deposit: { type: 'asset', role: 'deposits', isBank: false, tax: 'byType' },
  loan: { type: 'liability', role: 'loans', isBank: false, tax: 'byType' },
  drawings: { type: 'equity', role: 'drawings', isBank: false, tax: 'byType' },
  sales: { type: 'income', role: null, isBank: false, tax: 'byType' },
  interest: { type: 'income', role: null, isBank: false, tax: 'byType' },
  suspense: { type: 'asset', role: 'suspense', isBank: false, tax: 'byType' },
};
const code = (name: string, change: Partial<TaxInForce>): TaxInForce => ({
  id: name,
  name,
  kind: 'standard',
  use: 'both',
  rate: 0,
  inputAccountId: 'input',
  outputAccountId: 'output',
  recoverable: 10_000,
  ...change,
});
const codes = [
  code('20%', { rate: 2_000 }),
  code('5%', { rate: 500 }),
  code('half', { rate: 2_000, recoverable: 5_000 }),
  code('0%', { kind: 'zero' }),
  code('exempt', { kind: 'exempt' }),
  code('outside', { kind: 'outside' }),
  code('reverse', { kind: 'reverseCharge', rate: 2_000 }),
  code('halfReverse', { kind: 'reverseCharge', rate: 2_000, recoverable: 5_000 }),
];
const books: LegLookups = {
  taxSide: (id, use) =>
    taxSide(chart[id] ?? { type: 'expense', role: null, isBank: false, tax: 'byType' }, use),
  accountName: (id) => id,
  tax: (id) => codes.find(({ name }) => name === id) ?? code(id, {}),
  isBank: (id) => chart[id]?.isBank ?? false,
};

const cents = (typed: string) => parseAmount(typed, '.', 'EUR');
function shareOf(typed: string): SplitPart {
  if (typed === 'rest') return { kind: 'rest' };
  if (typed.endsWith('%'))
    return { kind: 'percent', basisPoints: Math.round(Number(typed.slice(0, -1)) * 100) };
  if (typed.startsWith('less'))
    return { kind: 'grossUp', basisPoints: Number(typed.slice(4)) * 100 };
  return { kind: 'fixed', amount: cents(typed) };
}
function codingOf(typed: string, tax: string | null = null): Coding {
  const parts = typed.split(' | ').map((part) => {
    const words = part.split(' ');
    const [share = 'rest', accountId = '', taxCodeId = null] =
      (words[0] ?? '') in chart ? ['rest', ...words] : words;
    return { accountId, taxCodeId, share: shareOf(share), tax: tax === null ? null : cents(tax) };
  });
  return { payeeId: null, parts, note: null };
}
const shown = (legs: readonly Leg[]) =>
  legs.map(({ accountId, amount }) => `${accountId} ${toDecimal(amount, 'EUR')}`).join(', ');

/** A line that is posted. */
const line = (amount: string, typed: string, tax?: string) => () =>
  shown(buildLegs(cents(amount), 'bank', codingOf(typed, tax), books));

/** A document with its lines, each as `amount account code`. */
const paper =
  (kind: DocumentKind, side: DocumentSide, ...typed: readonly string[]) =>
  () => {
    const lines = typed.map((each) => {
      const [amount = '', accountId = '', taxCodeId = null] = each.split(' ');
      return { text: '', accountId, taxCodeId, amount: cents(amount), tax: null };
    });
    const content = { kind, side, payeeId: 'payee', lines };
    const own = side === 'payables' ? 'owing' : 'owed';
    return shown(
      buildLegs(documentAmount(content), own, documentCoding(content), {
        ...books,
        role: 'control',
      }),
    );
  };

const accounts = { bank: 'bank', receivables: 'owed', payables: 'owing' };
function target(typed: string): SettledTarget {
  const [kind, amount = ''] = typed.split(' ') as [SettledTarget['kind'], string];
  const isEntry = ['cheque', 'payment', 'receipt'].includes(kind);
  const side = kind === 'bill' ? 'payables' : 'receivables';
  return {
    id: typed,
    documentId: isEntry ? null : typed,
    kind,
    side: isEntry ? null : side,
    amount: cents(amount),
    date: '2026-03-01',
    dueDate: null,
    payeeId: 'payee',
  } as SettledTarget;
}

/** Lines paired with what is in the books; what is coded of a difference as the coding of a line. */
const paired =
  (amounts: string, targets: string, difference: string | null = null) =>
  () => {
    const lines = amounts
      .split(' ')
      .map((amount, at) => ({ date: `2026-03-1${at}`, amount: cents(amount) }));
    const own = targets === '' ? [] : targets.split(', ').map(target);
    const by =
      lines.reduce((sum, { amount }) => sum + amount, 0) -
      own.reduce((sum, { amount }) => sum + amount, 0);
    const answer =
      difference === null
        ? null
        : difference === 'part'
          ? ({ kind: 'partPaid' } as const)
          : difference === 'credit'
            ? ({ kind: 'onAccount', payeeId: 'payee' } as const)
            : ({
                kind: 'code',
                legs: buildLegs(by, 'bank', codingOf(difference), books).slice(1),
              } as const);
    return settlePairing(lines, own, answer, accounts)
      .entries.map(({ date, legs }) => `${date.slice(8)}: ${shown(legs)}`)
      .join('; ');
  };

/** Money entered by hand that settles documents, and codes or keeps the rest. */
const hand =
  (amount: string, settles: string, rest: string | null = null) =>
  () => {
    const money = cents(amount);
    const settled = settles
      .split(', ')
      .filter(Boolean)
      .map((each) => {
        const { side, amount: open } = target(each);
        return { documentId: each, side: side ?? 'payables', payeeId: 'payee', open, amount: open };
      });
    const made = handSettlement(
      money,
      settled,
      { payeeId: 'payee', leavesCredit: rest === 'credit' },
      accounts,
    );
    const coded =
      made.rest === 0 ? [] : buildLegs(made.rest, 'bank', codingOf(rest ?? ''), books).slice(1);
    const bank: Leg = { accountId: 'bank', amount: money, taxCodeId: null, role: 'bank' };
    return shown([bank, ...made.legs, ...coded]);
  };

type Case = readonly [what: string, made: () => string, legs: string];
const cases: readonly Case[] = [
  // Costs
  ['a cost without tax', line('-48.50', 'freight'), 'bank -48.50, freight 48.50'],
  ['a cost with 20 %', line('-48.50', 'freight 20%'), 'bank -48.50, freight 40.42, input 8.08'],
  ['a cost with 5 %', line('-21.00', 'freight 5%'), 'bank -21.00, freight 20.00, input 1.00'],
  ['a cost at zero', line('-48.50', 'freight 0%'), 'bank -48.50, freight 48.50'],
  ['an exempt cost', line('-48.50', 'charges exempt'), 'bank -48.50, charges 48.50'],
  ['a cost outside tax', line('-900.00', 'wages outside'), 'bank -900.00, wages 900.00'],
  ['one cent with 20 %', line('-0.01', 'freight 20%'), 'bank -0.01, freight 0.01'],
  [
    'three cents: the half cent rounds away',
    line('-0.03', 'freight 20%'),
    'bank -0.03, freight 0.02, input 0.01',
  ],
  [
    'half of the tax comes back',
    line('-60.00', 'freight half'),
    'bank -60.00, freight 55.00, input 5.00',
  ],
  ['half of an odd tax', line('-48.50', 'freight half'), 'bank -48.50, freight 44.46, input 4.04'],
  ['a supplier’s refund', line('48.50', 'freight 20%'), 'bank 48.50, freight -40.42, input -8.08'],
  [
    'tax corrected by two cents',
    line('-48.50', 'freight 20%', '-8.10'),
    'bank -48.50, freight 40.40, input 8.10',
  ],
  ['goods for stock', line('-312.40', 'stock 20%'), 'bank -312.40, stock 260.33, input 52.07'],
  ['a fixed asset', line('-1640.00', 'wheel 20%'), 'bank -1640.00, wheel 1366.67, input 273.33'],
  [
    'a reverse charge on what is bought',
    line('-100.00', 'clay reverse'),
    'bank -100.00, clay 100.00, input 20.00, output -20.00',
  ],
  [
    'a reverse charge of which half comes back',
    line('-100.00', 'clay halfReverse'),
    'bank -100.00, clay 110.00, input 10.00, output -20.00',
  ],
  // Income
  ['a sale with 20 %', line('60.00', 'sales 20%'), 'bank 60.00, sales -50.00, output -10.00'],
  ['a sale without tax', line('95.00', 'sales'), 'bank 95.00, sales -95.00'],
  ['a sale at zero', line('95.00', 'sales 0%'), 'bank 95.00, sales -95.00'],
  ['a sale under reverse charge', line('120.00', 'sales reverse'), 'bank 120.00, sales -120.00'],
  ['a refund to a customer', line('-60.00', 'sales 20%'), 'bank -60.00, sales 50.00, output 10.00'],
  ['interest received', line('1.12', 'interest outside'), 'bank 1.12, interest -1.12'],
  // Neither
  ['personal spending', line('-35.00', 'drawings'), 'bank -35.00, drawings 35.00'],
  [
    'personal spending, outside tax',
    line('-35.00', 'drawings outside'),
    'bank -35.00, drawings 35.00',
  ],
  ['money put in by the owner', line('500.00', 'drawings'), 'bank 500.00, drawings -500.00'],
  ['a loan that comes', line('5000.00', 'loan'), 'bank 5000.00, loan -5000.00'],
  [
    'an instalment with its interest',
    line('-250.00', '-12.50 charges exempt | rest loan'),
    'bank -250.00, charges 12.50, loan 237.50',
  ],
  ['a move to an own account', line('-200.00', 'pot'), 'bank -200.00, pot 200.00'],
  ['a deposit paid', line('-300.00', 'deposit'), 'bank -300.00, deposit 300.00'],
  ['what waits for an answer', line('-19.99', 'suspense'), 'bank -19.99, suspense 19.99'],
  // Splits
  [
    'a split by amount and rest',
    line('-100.00', '-30.00 clay 20% | rest freight 5%'),
    'bank -100.00, clay 25.00, input 5.00, freight 66.67, input 3.33',
  ],
  [
    'a split by thirds',
    line('-100.00', '33.33% clay | 33.33% freight | 33.34% wages'),
    'bank -100.00, clay 33.33, freight 33.33, wages 33.34',
  ],
  [
    'business and private use',
    line('-99.99', '60% freight 20% | 40% drawings'),
    'bank -99.99, freight 49.99, input 10.00, drawings 40.00',
  ],
  [
    'a payout after the fee was kept',
    line('97.00', 'less3 charges | rest sales 20%'),
    'bank 97.00, charges 3.00, sales -83.33, output -16.67',
  ],
  [
    'a purchase with a return in it',
    line('-40.00', '10.00 freight 20% | rest clay 20%'),
    'bank -40.00, freight -8.33, input -1.67, clay 41.67, input 8.33',
  ],
  // Documents
  [
    'a bill',
    paper('bill', 'payables', '312.40 clay 20%'),
    'owing -312.40, clay 260.33, input 52.07',
  ],
  [
    'a bill with a discount',
    paper('bill', 'payables', '100.00 clay 20%', '-10.00 clay 20%'),
    'owing -90.00, clay 83.33, input 16.67, clay -8.33, input -1.67',
  ],
  [
    'a bill under reverse charge',
    paper('bill', 'payables', '100.00 clay reverse'),
    'owing -100.00, clay 100.00, input 20.00, output -20.00',
  ],
  [
    'a supplier’s credit note',
    paper('creditNote', 'payables', '50.00 clay 20%'),
    'owing 50.00, clay -41.67, input -8.33',
  ],
  [
    'an invoice',
    paper('invoice', 'receivables', '640.00 sales 20%'),
    'owed 640.00, sales -533.33, output -106.67',
  ],
  [
    'a credit note to a customer',
    paper('creditNote', 'receivables', '60.00 sales 20%'),
    'owed -60.00, sales 50.00, output 10.00',
  ],
  // Payments by pairing
  ['a bill paid', paired('-312.40', 'bill -312.40'), '10: bank -312.40, owing 312.40'],
  [
    'an invoice less a fee',
    paired('98.60', 'invoice 100.00', 'charges'),
    '10: bank 98.60, owed -100.00, charges 1.40',
  ],
  [
    'a fee with its tax',
    paired('98.60', 'invoice 100.00', 'charges 20%'),
    '10: bank 98.60, owed -100.00, charges 1.17, input 0.23',
  ],
  [
    'an invoice paid in part',
    paired('60.00', 'invoice 100.00', 'part'),
    '10: bank 60.00, owed -60.00',
  ],
  ['too much paid', paired('130.00', 'invoice 100.00', 'credit'), '10: bank 130.00, owed -130.00'],
  ['an advance to a supplier', paired('-60.00', '', 'credit'), '10: bank -60.00, owing 60.00'],
  [
    'an invoice less a credit note',
    paired('80.00', 'invoice 100.00, creditNote -20.00'),
    '10: bank 80.00, owed -80.00',
  ],
  [
    'a payment that came back',
    paired('-268.00', 'returned -268.00'),
    '10: bank -268.00, owed 268.00',
  ],
  [
    'a bill less an invoice',
    paired('-42.50', 'bill -48.50, invoice 6.00'),
    '10: bank -42.50, owing 48.50, owed -6.00',
  ],
  [
    'two lines for one invoice, less a fee',
    paired('50.00 48.60', 'invoice 100.00', 'charges'),
    '10: bank 50.00, owed -50.00; 11: bank 48.60, owed -50.00, charges 1.40',
  ],
  [
    'a cheque and a bill in two lines',
    paired('-48.50 -31.50', 'cheque -48.50, bill -31.50'),
    '11: bank -31.50, owing 31.50',
  ],
  ['a cheque alone: nothing new', paired('-48.50', 'cheque -48.50'), ''],
  // Payments by hand
  ['a cheque for a bill', hand('-48.50', 'bill -48.50'), 'bank -48.50, owing 48.50'],
  [
    'a payment for a bill and more',
    hand('-60.00', 'bill -48.50', 'freight 20%'),
    'bank -60.00, owing 48.50, freight 9.58, input 1.92',
  ],
  [
    'a receipt that leaves credit',
    hand('700.00', 'invoice 640.00', 'credit'),
    'bank 700.00, owed -640.00, owed -60.00',
  ],
];

describe('a worked case', () => {
  it.each(cases)('%s', (_what, made, legs) => expect(made()).toBe(legs));

  it.each([
    ['tax on personal spending', line('-120.00', 'drawings 20%'), 'takes no tax'],
    ['tax on a loan', line('5000.00', 'loan 20%'), 'takes no tax'],
    ['tax on a deposit', line('-300.00', 'deposit 5%'), 'takes no tax'],
    ['tax on a move', line('-200.00', 'pot 20%'), 'takes no tax'],
    ['a reverse charge on the owner’s money', line('-120.00', 'drawings reverse'), 'takes no tax'],
    ['tax too far off', line('-48.50', 'freight 20%', '-8.20'), 'A few cents'],
    [
      'parts that don’t come to the line',
      line('-40.00', '-10.00 clay | -20.00 freight'),
      'is left',
    ],
    ['shares beyond the whole', line('-40.00', '60% clay | 50% freight'), 'not 100 %'],
    ['a line for less than its invoice', paired('90.00', 'invoice 100.00'), 'doesn’t balance'],
    ['money the other way', paired('-90.00', 'invoice 100.00', 'charges'), 'goes the other way'],
    ['a payment beyond its money', hand('-40.00', 'bill -48.50'), 'total more'],
  ])('refuses %s', (_what, made, words) => expect(made).toThrow(words));
});
