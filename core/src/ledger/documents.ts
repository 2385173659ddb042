import type { AccountId, LegId, PayeeId, TaxCodeId } from '../ids.ts';
import { type Minor, sumOf } from '../money/minor.ts';
import type { Leg } from './buildLegs.ts';
import type { Coding, CostObjects } from './coding.ts';

/**
 * What is owed on paper: bills from suppliers, invoices to customers, credit notes of either, and credit that
 * is left where too much was paid.
 */
export const documentKinds = ['bill', 'invoice', 'creditNote', 'credit'] as const;
export type DocumentKind = (typeof documentKinds)[number];

/** Whether it is with suppliers or with customers. */
export const documentSides = ['payables', 'receivables'] as const;
export type DocumentSide = (typeof documentSides)[number];

/** One line of a document. */
export interface DocumentLine extends CostObjects {
  readonly text: string;
  readonly accountId: AccountId;
  readonly taxCodeId: TaxCodeId | null;
  /** With its tax; positive, but for a discount. */
  readonly amount: Minor;
  /** The tax as corrected by hand, signed like the amount; null for the computed one. */
  readonly tax: Minor | null;
  /** The cost that it charges to the customer, by the leg of that. */
  readonly rechargedLegId?: LegId | null | undefined;
}

/** What a document is, as far as its entry goes. */
export interface DocumentContent {
  readonly kind: DocumentKind;
  readonly side: DocumentSide;
  readonly payeeId: PayeeId;
  readonly lines: readonly DocumentLine[];
}

/**
 * Which way the money goes that settles a document: 1 for in, −1 for out.
 *
 * @example directionOf('bill', 'payables') // -1
 * @example directionOf('creditNote', 'receivables') // -1
 */
export function directionOf(kind: DocumentKind, side: DocumentSide): 1 | -1 {
  const isBack = kind === 'creditNote' || kind === 'credit';
  return (side === 'receivables') === isBack ? -1 : 1;
}

/** With whom money is that stays as credit: what came in is a customer's, what went out is held by a supplier. */
export function sideOfCredit(money: Minor): DocumentSide {
  return money > 0 ? 'receivables' : 'payables';
}

/** The leg of what is owed by customers or to suppliers. */
export function controlLeg(
  { receivables, payables }: Readonly<Record<DocumentSide, string>>,
  side: DocumentSide | null,
  amount: Minor,
): Leg {
  const accountId = side === 'payables' ? payables : receivables;
  return { accountId, amount, taxCodeId: null, role: 'control' };
}

/**
 * What a line would have to come to that settles a document: in positive, out negative.
 *
 * @example a bill of 48.50 with a discount of 2.00: −4650
 */
export function documentAmount({ kind, side, lines }: Omit<DocumentContent, 'payeeId'>): Minor {
  return directionOf(kind, side) * sumOf(lines);
}

/** A document's lines as the parts of a coding, so that its entry is made like that of a line. */
export function documentCoding({ kind, side, payeeId, lines }: DocumentContent): Coding {
  const direction = directionOf(kind, side);
  return {
    payeeId,
    parts: lines.map(({ text: _text, rechargedLegId: _leg, amount, tax, ...part }) => ({
      ...part,
      share: { kind: 'fixed', amount: direction * amount },
      tax: tax === null ? null : direction * tax,
    })),
    note: null,
  };
}

/**
 * How much of each document is settled when documents are set against each other, in their order.
 *
 * @param open what is open of each, signed: credit notes stand against invoices
 * @returns amounts that add up to nil, none beyond what is open
 * @example offsetAmounts([640, 212, -700]) // [640, 60, -700]
 */
export function offsetAmounts(open: readonly Minor[]): readonly Minor[] {
  const sum = (sign: 1 | -1) =>
    open.reduce((total, amount) => total + Math.max(sign * amount, 0), 0);
  const most = Math.min(sum(1), sum(-1));
  const left = { up: most, down: most };
  return open.map((amount) => {
    const side = amount > 0 ? 'up' : 'down';
    const used = Math.min(Math.abs(amount), left[side]);
    left[side] -= used;
    return used === 0 ? 0 : Math.sign(amount) * used;
  });
}
