import type { Coding as CoreCoding } from '@zubrell/core/ledger/coding';
import { z } from 'zod';
import { AccountId, GivenAmount, Id, PayeeId, Rate, TaxCodeId, text } from './common.ts';

/** How much of a line a part takes. */
export const SplitPart = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('fixed'), amount: GivenAmount }),
  z.object({ kind: z.literal('percent'), basisPoints: z.int().min(0).max(10_000) }),
  z.object({ kind: z.literal('rest') }),
  z.object({ kind: z.literal('grossUp'), basisPoints: z.int().min(0).max(9_999) }),
]);

/** What a part of a coding is for. */
export const costObjects = {
  costCentreId: Id.nullable().optional(),
  jobId: Id.nullable().optional(),
  /** The customer of the job is to be charged for it. */
  isRecharged: z.boolean().optional(),
};

/** Whose money a part is, on a bank account that holds clients’ money. A line has it, never a rule or a document. */
const ofClient = { clientId: PayeeId.nullable().optional() };

/** One part of a coding. */
export const CodingPart = z.object({
  accountId: AccountId,
  taxCodeId: TaxCodeId.nullable(),
  share: SplitPart,
  tax: GivenAmount.nullable(),
  ...costObjects,
  ...ofClient,
});

/** What a line is coded to, complete. */
export const Coding = z.object({
  payeeId: PayeeId.nullable(),
  parts: z.array(CodingPart).min(1).max(100).readonly(),
  note: text(1_000).nullable(),
  rate: Rate.nullable().optional(),
}) satisfies z.ZodType<CoreCoding>;
export type Coding = z.infer<typeof Coding>;

/** A part of a split that may be half done. */
export const DraftPart = z.object({
  accountId: AccountId.nullable(),
  taxCodeId: TaxCodeId.nullable(),
  share: SplitPart,
  tax: GivenAmount.nullable(),
  ...costObjects,
  ...ofClient,
});
export type DraftPart = z.infer<typeof DraftPart>;

/** Half-done coding: what has been filled in so far, of the whole line or of its parts. */
export const DraftCoding = z.object({
  payeeId: PayeeId.nullable(),
  accountId: AccountId.nullable(),
  taxCodeId: TaxCodeId.nullable(),
  note: text(1_000).nullable(),
  /** The tax as corrected by hand, signed like the line; null for the computed one. */
  tax: GivenAmount.nullable().default(null),
  ...costObjects,
  ...ofClient,
  /** The exchange rate that was typed; null for that of the day. */
  rate: Rate.nullable().optional(),
  /** The parts of a split; null while the line goes to one account. */
  parts: z.array(DraftPart).min(1).max(100).nullable().default(null),
});
export type DraftCoding = z.infer<typeof DraftCoding>;
