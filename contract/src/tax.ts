import { taxSides } from '@zubrell/core/ledger/kinds';
import { type TaxRow as Row, taxReturnKinds } from '@zubrell/core/tax/taxReturn';
import { z } from 'zod';
import {
  AccountId,
  BooksParams,
  CalendarDate,
  Cursor,
  EntryId,
  GivenDate,
  Minor,
  TaxCodeId,
  TaxReturnId,
  typedText,
} from './common.ts';

/** What one tax code comes to on one side. */
export const TaxRow = z.object({
  taxCodeId: TaxCodeId,
  side: z.enum(taxSides),
  net: Minor,
  tax: Minor,
  count: z.int(),
  late: z.object({ net: Minor, tax: Minor }),
}) satisfies z.ZodType<Row>;
export type TaxRow = z.infer<typeof TaxRow>;

/** What the tax accounts say against what is reported, debit positive. */
export const TaxAgreement = z.object({
  balance: Minor,
  own: Minor,
  earlier: Minor,
  others: Minor,
  accounts: z.array(z.object({ accountId: AccountId, balance: Minor })),
});

/** What a return comes to. */
export const TaxFigures = z.object({ rows: z.array(TaxRow), agreement: TaxAgreement });
export type TaxFigures = z.infer<typeof TaxFigures>;

/** A return that was filed, or a period whose tax was reported elsewhere. */
export const TaxReturn = z.object({
  id: TaxReturnId,
  kind: z.enum(taxReturnKinds),
  from: CalendarDate,
  to: CalendarDate,
  figures: TaxFigures,
  note: z.string().nullable(),
  /** The journal that moved the tax to what is owed to the tax office. */
  entryId: EntryId.nullable(),
  filedBy: z.string(),
  filedAt: z.iso.datetime({ offset: true }),
  step: z.int(),
});
export type TaxReturn = z.infer<typeof TaxReturn>;

export const TaxReturns = z.object({
  /** The newest first. */
  returns: z.array(TaxReturn),
  /** The period that comes next. */
  next: z.object({ from: CalendarDate, to: CalendarDate }),
});
export type TaxReturns = z.infer<typeof TaxReturns>;

/** A return as it would be filed now. */
export const TaxDraft = TaxFigures.extend({
  from: CalendarDate,
  to: CalendarDate,
  /** Lines of the period that nobody has decided yet: the figures are without them. */
  open: z.object({ count: z.int(), amount: Minor }),
});
export type TaxDraft = z.infer<typeof TaxDraft>;

export const TaxPeriod = z.object({ from: GivenDate, to: GivenDate });

/** How a return is filed. */
export const FileTaxReturn = TaxPeriod.extend({
  /** The tax due that was seen; another one is refused. */
  seenDue: Minor,
  /** Whether a journal moves the tax to the account for tax owed. */
  movesTax: z.boolean(),
  /** Whether the books are locked up to the end of the period. */
  locks: z.boolean(),
  note: typedText(1_000).nullable(),
});
export type FileTaxReturn = z.infer<typeof FileTaxReturn>;

/** Up to when tax was reported elsewhere. */
export const ReportedElsewhere = z.object({ to: GivenDate });

/** Which figure of a return is asked for: of one that was filed, or of the next. */
export const TaxLegsQuery = z.object({
  returnId: TaxReturnId.optional(),
  from: GivenDate,
  to: GivenDate,
  side: z.enum(taxSides),
  cursor: Cursor.optional(),
});
export type TaxLegsQuery = z.infer<typeof TaxLegsQuery>;

/** A leg that a figure of a return is made of. */
export const TaxLeg = z.object({
  legId: z.uuid(),
  entryId: EntryId,
  accountId: AccountId,
  date: CalendarDate,
  payee: z.string().nullable(),
  text: z.string(),
  /** Without tax; 0 where the leg is of tax. Signed as the return has it. */
  net: Minor,
  tax: Minor,
  isLate: z.boolean(),
  /** It was reported before, and is taken back. */
  isTakenBack: z.boolean(),
});
export type TaxLeg = z.infer<typeof TaxLeg>;
export const TaxLegs = z.object({
  items: z.array(TaxLeg),
  next: z.string().nullable(),
  count: z.int(),
});
export type TaxLegs = z.infer<typeof TaxLegs>;

export const TaxCodeParams = BooksParams.extend({ taxCodeId: TaxCodeId });
