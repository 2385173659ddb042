import {
  type DocumentLine as CoreDocumentLine,
  documentKinds,
  documentSides,
} from '@zubrell/core/ledger/documents';
import { handKinds } from '@zubrell/core/ledger/entries';
import { z } from 'zod';
import { costObjects } from './coding.ts';
import {
  AccountId,
  CalendarDate,
  Currency,
  DecisionId,
  DocumentId,
  EntryId,
  Exchange,
  GivenAmount,
  GivenDate,
  Id,
  LegId,
  Minor,
  neededText,
  PayeeId,
  Rate,
  Seen,
  TaxCodeId,
  text,
} from './common.ts';
import { KeptAttachment } from './questions.ts';

export const DocumentLine = z.object({
  text: text(300),
  accountId: AccountId,
  taxCodeId: TaxCodeId.nullable(),
  /** With its tax; positive, but for a discount. */
  amount: GivenAmount,
  tax: GivenAmount.nullable(),
  ...costObjects,
  /** The cost that it charges to the customer. */
  rechargedLegId: LegId.nullable().optional(),
}) satisfies z.ZodType<CoreDocumentLine>;
export type DocumentLine = z.infer<typeof DocumentLine>;

/** A bill, invoice or credit note as it is typed. */
export const NewDocument = z.object({
  kind: z.enum(['bill', 'invoice', 'creditNote']),
  side: z.enum(documentSides),
  number: neededText(50, 'a number is needed'),
  payeeId: PayeeId,
  date: GivenDate,
  dueDate: GivenDate.nullable(),
  /** Where it is not that of the books. */
  currency: Currency.nullable().optional(),
  /** The exchange rate that was typed; else that of its day. */
  rate: Rate.nullable().optional(),
  lines: z.array(DocumentLine).min(1, { error: 'a line is needed' }).max(200),
  note: text(1_000).nullable(),
});
export type NewDocument = z.infer<typeof NewDocument>;

export const ChangeDocument = z.object({ document: NewDocument, seenStep: Seen });
export const VoidDocument = z.object({ seenStep: Seen });

/** Documents of one payee that are settled against each other, without any money. */
export const OffsetDocuments = z.object({
  documentIds: z.array(DocumentId).min(2).max(200),
  /** When: it dates the entry that sets bills against invoices; today without one. */
  date: GivenDate.optional(),
});
export type OffsetDocuments = z.infer<typeof OffsetDocuments>;

/** A document in a list. */
export const ListedDocument = z.object({
  id: Id,
  kind: z.enum(documentKinds),
  side: z.enum(documentSides),
  number: z.string().nullable(),
  payeeId: PayeeId,
  date: CalendarDate,
  dueDate: CalendarDate.nullable(),
  /** What a line would have to come to that settles it: in positive, out negative. */
  amount: Minor,
  /** What of that is open. */
  open: Minor,
  /** Its currency and rate; null where it is in the currency of the books. */
  exchange: Exchange.nullable(),
  isVoid: z.boolean(),
  entryId: EntryId,
  lastStep: z.int(),
});
export type ListedDocument = z.infer<typeof ListedDocument>;

export const DocumentsWanted = z.object({
  side: z.enum(documentSides),
  state: z.enum(['open', 'settled', 'void']).optional(),
  search: text(200).optional(),
});

/** A cost that is marked to be charged to the customer of its job. */
export const Recharge = z.object({
  legId: LegId,
  entryId: EntryId,
  date: CalendarDate,
  accountId: AccountId,
  jobId: Id.nullable(),
  payeeId: PayeeId.nullable(),
  taxCodeId: TaxCodeId.nullable(),
  /** Without tax; negative where it came back. */
  net: Minor,
  /** The bank's wording, or the note of the entry. */
  text: z.string(),
  /** The invoice that it is on; null where it is on none. */
  invoice: z.object({ id: DocumentId, number: z.string().nullable() }).nullable(),
});
export type Recharge = z.infer<typeof Recharge>;

/** What is open by its age on a day: not due, and past due by so many days. */
export const ages = ['notDue', 'to30', 'to60', 'to90', 'older'] as const;
/** The numbers of the invoices or credit notes that the books gave: what comes next, and which are missing. */
export const NumberSeries = z.object({ next: z.string(), missing: z.array(z.string()) });
export type NumberSeries = z.infer<typeof NumberSeries>;

export const Documents = z.object({
  documents: z.array(ListedDocument),
  ages: z.array(z.object({ age: z.enum(ages), count: z.int(), amount: Minor })),
  today: CalendarDate,
  /** Of invoices and of credit notes to customers; null for bills. */
  series: z.object({ invoice: NumberSeries, creditNote: NumberSeries }).nullable(),
});
export type Documents = z.infer<typeof Documents>;

/** A document with its lines, and what has settled it. */
export const DocumentSheet = ListedDocument.extend({
  /** As of which step it is told. */
  seenStep: Seen,
  lines: z.array(DocumentLine),
  note: z.string().nullable(),
  /** The electronic invoice or other attachments that are kept with it. */
  attachments: z.array(KeptAttachment),
  payments: z.array(
    z.object({
      decisionId: DecisionId,
      amount: Minor,
      lines: z.array(
        z.object({ id: Id, date: CalendarDate, amount: Minor, description: z.string() }),
      ),
      /** The payment entered by hand that settles it, before or after the bank reports it. */
      entry: z
        .object({
          id: Id,
          kind: z.enum(handKinds),
          date: CalendarDate,
          number: z.string().nullable(),
        })
        .nullable(),
    }),
  ),
});
export type DocumentSheet = z.infer<typeof DocumentSheet>;
