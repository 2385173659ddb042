import { firstYear, lastYear } from '@zubrell/core/dates/calendarDate';
import type * as ids from '@zubrell/core/ids';
import { mostMinor } from '@zubrell/core/money/minor';
import { z } from 'zod';

/** Amounts on the wire: integers in minor units, in positive, out negative. */
export const Minor = z.int().meta({ description: 'Minor units; in +, out −' });

/** An amount that is sent: so large that sums of very many are exact still. */
export const GivenAmount = Minor.min(-mostMinor).max(mostMinor);

/** How much of the books' currency one unit of another is worth, above zero. */
export const Rate = z
  .string()
  .regex(/^\d{1,9}(\.\d{1,12})?$/, { error: 'a rate is a number such as 0.9235' })
  .refine((rate) => /[1-9]/.test(rate), { error: 'a rate is above zero' });

/** Another currency than that of the books, and the rate at which something was taken into them. */
export const Exchange = z.object({ currency: z.string(), rate: z.string() });

/** A currency, by its three letters (ISO 4217). */
export const Currency = z.string().regex(/^[A-Z]{3}$/, { error: 'a currency has three letters' });

/** Calendar dates on the wire. */
export const CalendarDate = z.iso.date();

/** A date that is sent: in the years that files, too, may have. */
export const GivenDate = CalendarDate.refine(
  (date) => date >= `${firstYear}-01-01` && date <= `${lastYear}-12-31`,
  { error: `dates run from ${firstYear} to ${lastYear}` },
);

/** A number of a step, as it was last seen; a version of a draft. */
export const Seen = z.int().min(0);

export const Id = z.uuid();

/** The same as the id of one kind of thing. */
function idOf<Of extends string>(): z.ZodType<Of, Of> {
  return Id as unknown as z.ZodType<Of, Of>;
}
export const AccountId = idOf<ids.AccountId>();
export const BankAccountId = idOf<ids.BankAccountId>();
export const BatchId = idOf<ids.BatchId>();
export const BooksId = idOf<ids.BooksId>();
export const DecisionId = idOf<ids.DecisionId>();
export const DocumentId = idOf<ids.DocumentId>();
export const EntryId = idOf<ids.EntryId>();
export const FeedId = idOf<ids.FeedId>();
export const JournalPlanId = idOf<ids.JournalPlanId>();
export const LegId = idOf<ids.LegId>();
export const TaxReturnId = idOf<ids.TaxReturnId>();
export const LineId = idOf<ids.LineId>();
export const PayeeId = idOf<ids.PayeeId>();
export const QuestionId = idOf<ids.QuestionId>();
export const RuleId = idOf<ids.RuleId>();
export const TaxCodeId = idOf<ids.TaxCodeId>();
export const UserId = idOf<ids.UserId>();

/** Neither control characters, but for tabs and ends of lines, nor halves of characters. */
const KEPT = /^(?:[^\p{Cc}\p{Cs}]|[\t\n\r])*$/u;

/**
 * Text that is sent, as it is. Every text field of a request is this, or one of those below.
 *
 * @param longest in characters
 */
export function text(longest: number) {
  return z
    .string()
    .max(longest, { error: `longer than ${longest} characters` })
    .regex(KEPT, { error: 'a character in it can’t be kept' });
}

/** Text that somebody types: spaces around it go. */
export function typedText(longest: number) {
  return text(longest).trim();
}

/** Text that somebody types and that can't be left out. @param error what is said then */
export function neededText(longest: number, error: string) {
  return typedText(longest).min(1, { error });
}

/** Where a page ended, as a page before it said. */
export const Cursor = text(500);

/** Problem details (RFC 9457) with the error's code and values. */
export const ProblemDetails = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  code: z.string(),
  params: z.record(z.string(), z.union([z.string(), z.number()])),
});
export type ProblemDetails = z.infer<typeof ProblemDetails>;

export const BooksParams = z.object({ booksId: BooksId });
export const LineParams = BooksParams.extend({ lineId: LineId });
export const AccountParams = BooksParams.extend({ accountId: AccountId });
export const BankAccountParams = BooksParams.extend({ bankAccountId: BankAccountId });

/** What opens a door by itself: an invitation, a link. */
export const SecretParams = z.object({ secret: text(100).min(10) });

/** An answer that says nothing but that it was done. */
export const Nothing = z.object({});

/** A page of a long list; `next` is the cursor of the page after it, or null. */
export function page<Item extends z.ZodType>(item: Item) {
  return z.object({ items: z.array(item), next: z.string().nullable() });
}

/** What a command did: the step it made, to be named, undone or waited for. */
export const StepDone = z.object({ step: z.int(), words: z.string() });
export type StepDone = z.infer<typeof StepDone>;

/** What a command made, with its step. */
export const Made = StepDone.extend({ id: Id });
export type Made = z.infer<typeof Made>;
