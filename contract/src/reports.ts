import { z } from 'zod';
import {
  AccountId,
  BooksParams,
  CalendarDate,
  Cursor,
  EntryId,
  GivenDate,
  LineId,
  Minor,
  PayeeId,
  page,
} from './common.ts';

/** A period that is asked for. */
export const ReportPeriod = z.object({ from: GivenDate, to: GivenDate });
export type ReportPeriod = z.infer<typeof ReportPeriod>;

/** What happened on every account in a period, debit positive; accounts where nothing ever was are left out. */
export const AccountTotals = z.object({
  from: CalendarDate,
  to: CalendarDate,
  /** The months that the period touches, as in `2026-03`. */
  months: z.array(z.string()),
  totals: z.array(
    z.object({
      accountId: AccountId,
      /** The balance before the period. */
      opening: Minor,
      /** What moved in each of the months, within the period. */
      months: z.array(Minor),
    }),
  ),
  /** Lines of the period that nobody has decided yet: the figures are without them. */
  open: z.object({ count: z.int(), amount: Minor }),
});
export type AccountTotals = z.infer<typeof AccountTotals>;

/** A leg that a figure is made of. */
export const FigureLeg = z.object({
  legId: z.uuid(),
  entryId: EntryId,
  date: CalendarDate,
  payeeId: PayeeId.nullable(),
  /** The bank's wording, or the note of the entry. */
  text: z.string(),
  /** The bank's line behind it. */
  lineId: LineId.nullable(),
  /** Debit positive. */
  amount: Minor,
});
export type FigureLeg = z.infer<typeof FigureLeg>;
export const FigureLegs = page(FigureLeg).extend({ count: z.int(), amount: Minor });
export type FigureLegs = z.infer<typeof FigureLegs>;

export const FigureParams = BooksParams.extend({ accountId: AccountId });
export const FigureQuery = ReportPeriod.extend({ cursor: Cursor.optional() });
