import { documentKinds, documentSides } from '@zubrell/core/ledger/documents';
import { type GroupTotal as CoreGroupTotal, groupings } from '@zubrell/core/reports/grouped';
import { z } from 'zod';
import {
  AccountId,
  BankAccountId,
  CalendarDate,
  DocumentId,
  EntryId,
  GivenDate,
  Id,
  LegId,
  Minor,
  PayeeId,
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

const OpenLines = AccountTotals.shape.open;

/** What a period is grouped by. */
export const GroupedQuery = ReportPeriod.extend({ by: z.enum(groupings) });

/** What one payee, cost centre or job comes to. */
export const GroupTotal = z.object({
  /** Null for what has none. */
  id: Id.nullable(),
  income: Minor,
  costs: Minor,
  /** On neither income nor costs, debit positive: what was bought as an asset, owner's money and the like. */
  other: Minor,
}) satisfies z.ZodType<CoreGroupTotal>;
export const GroupedTotals = z.object({ totals: z.array(GroupTotal), open: OpenLines });
export type GroupedTotals = z.infer<typeof GroupedTotals>;

/** What is owed on a day, by customers or to suppliers. */
export const AgedQuery = z.object({ side: z.enum(documentSides), on: GivenDate });
export const AgedDocument = z.object({
  id: DocumentId,
  kind: z.enum(documentKinds),
  number: z.string().nullable(),
  payeeId: PayeeId,
  date: CalendarDate,
  dueDate: CalendarDate.nullable(),
  /** What stood in the books for what was open of it on the day, debit positive. */
  open: Minor,
  /** Its currency where that is another, and what was open in it. */
  currency: z.string().nullable(),
  original: Minor.nullable(),
});
export type AgedDocument = z.infer<typeof AgedDocument>;
export const AgedDocuments = z.object({
  documents: z.array(AgedDocument),
  /** The account that they stand on, and its balance on the day. */
  accountId: AccountId.nullable(),
  balance: Minor,
  /** What of the balance is the valuation of other currencies on the day. */
  valuation: Minor,
});
export type AgedDocuments = z.infer<typeof AgedDocuments>;

/** What came in and went out of the bank accounts, month by month. */
export const CashFlow = z.object({
  months: z.array(z.string()),
  accounts: z.array(
    z.object({
      accountId: AccountId,
      opening: Minor,
      months: z.array(
        z.object({
          in: Minor,
          /** Negative. */
          out: Minor,
          /** From and to other own accounts. */
          moved: Minor,
        }),
      ),
    }),
  ),
  open: OpenLines,
});
export type CashFlow = z.infer<typeof CashFlow>;

/** What stands on suspense and between own accounts on a day, since the account last came to zero. */
export const ClearingQuery = z.object({ on: GivenDate });
export const ClearingItem = z.object({
  accountId: AccountId,
  legId: LegId,
  entryId: EntryId,
  date: CalendarDate,
  payeeId: PayeeId.nullable(),
  text: z.string(),
  amount: Minor,
  who: z.string(),
});
export type ClearingItem = z.infer<typeof ClearingItem>;
export const ClearingItems = z.object({ items: z.array(ClearingItem) });

/** What bank accounts that hold clients' money hold, and for whom. */
export const ClientMoney = z.object({
  accounts: z.array(
    z.object({
      bankAccountId: BankAccountId,
      /** By the books, on the last day. */
      held: Minor,
      /** What of it an opening balance left unsaid: nobody has said yet whose it is. */
      unsaid: Minor,
      /** Those whose money it holds or held in the period. */
      clients: z.array(
        z.object({
          clientId: PayeeId,
          opening: Minor,
          in: Minor,
          /** Negative. */
          out: Minor,
          closing: Minor,
        }),
      ),
    }),
  ),
});
export type ClientMoney = z.infer<typeof ClientMoney>;

/** What moved of one client's money on one bank account in a period. */
export const ClientQuery = ReportPeriod.extend({ bankAccountId: BankAccountId, clientId: PayeeId });
export const ClientMovement = z.object({
  entryId: EntryId,
  legId: LegId,
  accountId: AccountId,
  date: CalendarDate,
  /** Who was paid or who paid. */
  payeeId: PayeeId.nullable(),
  text: z.string(),
  amount: Minor,
  /** What the client's money came to after it. */
  balance: Minor,
});
export type ClientMovement = z.infer<typeof ClientMovement>;
export const ClientMovements = z.object({ movements: z.array(ClientMovement) });
