import type { CalendarDate } from '../dates/calendarDate.ts';
import type { BankAccountId, PayeeId } from '../ids.ts';
import { documentKinds } from '../ledger/documents.ts';
import { handKinds } from '../ledger/entries.ts';
import type { Minor } from '../money/minor.ts';

/**
 * What stands in the books already and may be what a line is: entries by hand, open documents, and payments of
 * documents, which may come back.
 */
export const candidateKinds = [...handKinds, ...documentKinds, 'returned'] as const;
export type CandidateKind = (typeof candidateKinds)[number];

const entries: ReadonlySet<string> = new Set(handKinds);

/** Whether a candidate is a document or the payment of one; the others are the bank legs of entries. */
export function isDocument({ kind }: { readonly kind: CandidateKind }): boolean {
  return !entries.has(kind);
}

/** An unpaired entry of a bank account, or an open document. */
export interface Candidate {
  readonly id: string;
  readonly kind: CandidateKind;
  /** The bank account that it is an entry of; null for documents, which any may pay. */
  readonly bankAccountId: BankAccountId | null;
  readonly date: CalendarDate;
  /** When a document is to be paid. */
  readonly dueDate: CalendarDate | null;
  /** What a line would have to come to: in positive, out negative; of a document what is still open. */
  readonly amount: Minor;
  readonly payeeId: PayeeId | null;
  readonly payee: string | null;
  /** The number of a document or cheque. */
  readonly number: string | null;
  /** Of an entry that settles documents: their numbers. */
  readonly pays: readonly string[];
}

/** An open line as pairing looks at it. */
export interface PairLine {
  readonly id: string;
  readonly bankAccountId: BankAccountId;
  readonly date: CalendarDate;
  /** In positive, out negative. */
  readonly amount: Minor;
  /** In which it is; left out where all are in one. */
  readonly currency?: string;
  /** What it is worth in the books' currency by the rate of its day, where that is known. */
  readonly worth?: Minor | null;
  /** All the bank says of it: description, reference, payee. */
  readonly text: string;
  readonly chequeNumber: string | null;
  /** Who look-alikes were paid to or by, where that is known. */
  readonly usualPayeeId: PayeeId | null;
}

/** How a candidate differs from a line. */
export type PairDifference =
  /** Days from the candidate to the line; negative where the line came before. */
  | { readonly kind: 'date'; readonly days: number }
  /** The wording names somebody else, or nobody like this. */
  | { readonly kind: 'payee' }
  /** The line has another cheque number or names another document. */
  | { readonly kind: 'number' }
  /** How much more the line is than the candidate, and the likely reason. */
  | {
      readonly kind: 'amount';
      readonly by: Minor;
      readonly because: AmountReason | null;
    }
  | { readonly kind: 'direction' };

/** Why two amounts may differ that should be the same. */
export const amountReasons = [
  'fee',
  'transposed',
  'digit',
  'decimal',
  'taxOff',
  'sign',
  'missing',
] as const;
export type AmountReason = (typeof amountReasons)[number];

/** What speaks for a candidate. */
export const pairReasons = ['amount', 'number', 'payee', 'date'] as const;
export type PairReason = (typeof pairReasons)[number];

/**
 * Why some of what stands in the books may be what some lines are together: the wording names them all, they are all
 * that is open of the payee, some of the payee's, one after the other of one kind, or they only add up.
 */
export const setReasons = ['numbers', 'allOfPayee', 'payee', 'run', 'sum'] as const;
export type SetReason = (typeof setReasons)[number];
