import type { AccountId, PayeeId, TaxCodeId } from '../ids.ts';
import type { Minor } from '../money/minor.ts';
import type { SplitPart } from '../money/splitAmount.ts';

/** What a part is for, beside its account. */
export interface CostObjects {
  readonly costCentreId?: string | null | undefined;
  readonly jobId?: string | null | undefined;
  /** The customer of the job is to be charged for it. */
  readonly isRecharged?: boolean | undefined;
  /** Whose money it is, on a bank account that holds clients' money. */
  readonly clientId?: PayeeId | null | undefined;
}

/** One part of a coding: which account and tax, and how much of the line. */
export interface CodingPart extends CostObjects {
  readonly accountId: AccountId;
  readonly taxCodeId: TaxCodeId | null;
  readonly share: SplitPart;
  /** The tax as corrected by hand, signed like the part; null for the computed one. */
  readonly tax: Minor | null;
}

/** What a line is coded to. */
export interface Coding {
  readonly payeeId: PayeeId | null;
  readonly parts: readonly CodingPart[];
  readonly note: string | null;
  /** The exchange rate that somebody gave, where the line is in another currency; else that of the day. */
  readonly rate?: string | null | undefined;
}

/** A coding of the whole line to one account. */
export function wholeLineCoding(
  accountId: AccountId,
  payeeId: PayeeId | null,
  taxCodeId: TaxCodeId | null,
  note: string | null = null,
): Coding {
  return {
    payeeId,
    parts: [{ accountId, taxCodeId, share: { kind: 'rest' }, tax: null }],
    note,
  };
}
