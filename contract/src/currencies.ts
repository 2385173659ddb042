import { z } from 'zod';
import { BooksParams, CalendarDate, Currency, GivenDate, Id, Rate, text } from './common.ts';

/** How much of the books' currency one unit of another was worth on a day. */
export const ExchangeRate = z.object({
  id: Id,
  currency: z.string(),
  date: CalendarDate,
  rate: z.string(),
});
export type ExchangeRate = z.infer<typeof ExchangeRate>;

export const ExchangeRates = z.object({
  /** The newest first. */
  rates: z.array(ExchangeRate),
  /** The other currencies that bank accounts, documents and rates are in. */
  used: z.array(z.string()),
});
export type ExchangeRates = z.infer<typeof ExchangeRates>;

export const GivenRate = z.object({ currency: Currency, date: GivenDate, rate: Rate });
export type GivenRate = z.infer<typeof GivenRate>;

/** A file of rates, as its text. */
export const ImportRates = z.object({ text: text(5_000_000) });

export const RateParams = BooksParams.extend({ rateId: Id });

/** The last day of the period whose open amounts in other currencies are valued. */
export const ValueCurrencies = z.object({ date: GivenDate });
export type ValueCurrencies = z.infer<typeof ValueCurrencies>;

/** What of the books is in another currency on a day, and what its rate makes of it. */
export const Valuation = z.object({
  date: CalendarDate,
  items: z.array(
    z.object({
      kind: z.enum(['bank', 'receivables', 'payables']),
      /** The bank account's; null for open documents, which are taken together. */
      name: z.string().nullable(),
      accountId: Id,
      currency: z.string(),
      /** In that currency, debit positive. */
      original: z.int(),
      /** What stands in the books for it. */
      stands: z.int(),
      /** The rate of the day; null where none is known. */
      rate: z.string().nullable(),
      /** What it is worth by that rate. */
      worth: z.int().nullable(),
    }),
  ),
  /** Whether the day was valued, and the entry that did. */
  entryId: Id.nullable(),
});
export type Valuation = z.infer<typeof Valuation>;
