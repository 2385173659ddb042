import { documentSides } from '@zubrell/core/ledger/documents';
import {
  amountReasons,
  type PairDifference as CorePairDifference,
  candidateKinds,
  setReasons,
} from '@zubrell/core/pair/pairing';
import { z } from 'zod';
import {
  AccountId,
  BankAccountId,
  CalendarDate,
  EntryId,
  Id,
  LineId,
  Minor,
  neededText,
  PayeeId,
  Seen,
  TaxCodeId,
  text,
} from './common.ts';

/** What a line is paired with: the bank leg of an entry, or a document. */
export const PairTarget = z.object({
  id: Id,
  kind: z.enum(candidateKinds),
  date: CalendarDate,
  dueDate: CalendarDate.nullable(),
  /** In positive, out negative; of a document what the pairing settles. */
  amount: Minor,
  payeeId: PayeeId.nullable(),
  number: z.string().nullable(),
});
export type PairTarget = z.infer<typeof PairTarget>;

export const PairDifference = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('date'), days: z.int() }),
  z.object({ kind: z.literal('payee') }),
  z.object({ kind: z.literal('number') }),
  z.object({
    kind: z.literal('amount'),
    by: Minor,
    because: z.enum(amountReasons).nullable(),
  }),
  z.object({ kind: z.literal('direction') }),
]) satisfies z.ZodType<CorePairDifference>;
export type PairDifference = z.infer<typeof PairDifference>;

/** What stands in the books, as the pairing view shows it. */
export const PairRow = PairTarget.extend({
  payee: z.string().nullable(),
  entryId: EntryId,
  /** Of a document: with whom. */
  side: z.enum(documentSides).nullable(),
  note: z.string().nullable(),
  /** What it is in its own currency, where that is not that of the lines: `amount` is what that is worth. */
  original: z.object({ currency: z.string(), amount: Minor }).nullable(),
  /** Of an entry that settles documents: their numbers. */
  pays: z.array(z.string()),
  /** From 0 to 4. */
  likeness: z.int().min(0).max(4),
  differences: z.array(PairDifference),
  /** The parts of the name or number that the wording has. */
  named: z.array(z.string()),
  /** The line that it is paired with already. */
  pairedWith: z.object({ date: CalendarDate, description: z.string() }).nullable(),
});
export type PairRow = z.infer<typeof PairRow>;

/** Some that add up. */
export const PairSet = z.object({
  rows: z.array(PairRow),
  because: z.enum(setReasons),
  likeness: z.int().min(0).max(4),
  /** How much more the lines come to. */
  by: Minor,
});
export type PairSet = z.infer<typeof PairSet>;

/** A line of the bank that may belong to the same pairing. */
export const PairMate = z.object({
  id: Id,
  date: CalendarDate,
  amount: Minor,
  description: z.string(),
});
export type PairMate = z.infer<typeof PairMate>;

/** All that some lines could be. */
export const PairingView = z.object({
  lines: z.array(
    PairMate.extend({
      bankAccountId: BankAccountId,
      reference: z.string().nullable(),
    }),
  ),
  /** What is proposed, first; ids of rows or of a set's rows. */
  proposed: z.array(Id),
  isCertain: z.boolean(),
  sets: z.array(PairSet),
  fits: z.array(PairRow),
  nearMisses: z.array(PairRow),
  /** What a search found beside these. */
  found: z.array(PairRow),
  /** Other open lines with which the first one comes to something in the books: instalments, say. */
  together: z.array(z.object({ lines: z.array(PairMate), rows: z.array(PairRow) })),
  /** Open lines that are the other half of a move, or cancel it as a bank's error and its correction. */
  cancelling: z.array(PairMate),
  /** The newest step when it was put together. */
  seenStep: Seen,
});
export type PairingView = z.infer<typeof PairingView>;

export const PairingWanted = z.object({
  lineId: z.union([Id.transform((id) => [id]), z.array(Id).min(1).max(50)]),
  /** Text, an amount, `600..700`, `>500` or a date. */
  search: text(200).optional(),
});

/** What is to become of what lines are off what they are paired with. */
export const DifferenceAnswer = z.discriminatedUnion('kind', [
  /** Our entry or bill is wrong: it is corrected to what the bank moved. */
  z.object({ kind: z.literal('correct'), targetId: Id }),
  /** The rest of the last document stays open. */
  z.object({ kind: z.literal('partPaid') }),
  /** What is too much stays as credit with the payee; where nothing is paired, with this one. */
  z.object({ kind: z.literal('onAccount'), payeeId: PayeeId.optional() }),
  z.object({
    kind: z.literal('code'),
    accountId: AccountId,
    taxCodeId: TaxCodeId.nullable(),
    reason: neededText(200, 'a reason is needed'),
  }),
]);
export type DifferenceAnswer = z.infer<typeof DifferenceAnswer>;

export const PairLines = z.object({
  lineIds: z.array(LineId).min(1).max(50),
  targetIds: z.array(Id).max(500),
  difference: DifferenceAnswer.nullable(),
  seenStep: Seen,
});
export type PairLines = z.infer<typeof PairLines>;
