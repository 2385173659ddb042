import type { Coding as CoreCoding } from '@zubrell/core/ledger/coding';
import { z } from 'zod';
import { Id, Minor } from './common.ts';

const SplitPart = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('fixed'), amount: Minor }),
  z.object({ kind: z.literal('percent'), basisPoints: z.int().min(0).max(10_000) }),
  z.object({ kind: z.literal('rest') }),
  z.object({ kind: z.literal('grossUp'), basisPoints: z.int().min(0).max(9_999) }),
]);

/** What a line is coded to, complete. */
export const Coding = z.object({
  payeeId: Id.nullable(),
  parts: z
    .array(
      z.object({
        accountId: Id,
        taxCodeId: Id.nullable(),
        share: SplitPart,
        tax: Minor.nullable(),
      }),
    )
    .min(1)
    .max(100)
    .readonly(),
  note: z.string().max(1_000).nullable(),
}) satisfies z.ZodType<CoreCoding>;
export type Coding = z.infer<typeof Coding>;

/** Half-done coding of a whole line: what has been filled in so far. */
export const DraftCoding = z.object({
  payeeId: Id.nullable(),
  accountId: Id.nullable(),
  taxCodeId: Id.nullable(),
  note: z.string().max(1_000).nullable(),
});
export type DraftCoding = z.infer<typeof DraftCoding>;
