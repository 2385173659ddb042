import { errorCodes } from '@zubrell/core/errors';
import { fileFormats, type Problem, severities } from '@zubrell/core/formats/bankFile';
import { columnRoles } from '@zubrell/core/formats/table/tableLayout';
import { batchStatuses } from '@zubrell/core/intake/held';
import { decisionKinds } from '@zubrell/core/ledger/decisions';
import { z } from 'zod';
import { ChainBreakShown } from './board.ts';
import {
  BankAccountId,
  BatchId,
  CalendarDate,
  FeedId,
  GivenAmount,
  GivenDate,
  Id,
  LineId,
  Minor,
  neededText,
  page,
  text,
  typedText,
} from './common.ts';

export const FileProblem = z.object({
  severity: z.enum(severities),
  line: z.int(),
  field: z.string().nullable(),
  code: z.enum(errorCodes),
  message: z.string(),
  excerpt: z.string().nullable(),
  amount: Minor.nullable(),
}) satisfies z.ZodType<Problem>;
export type FileProblem = z.infer<typeof FileProblem>;

export const UploadDone = z.object({ uploadId: Id });

/** What tells whether a line is here already. */
export const LineFacts = z.object({
  date: CalendarDate,
  amount: Minor,
  description: z.string(),
  reference: z.string().nullable(),
  bankId: z.string().nullable(),
  isPending: z.boolean(),
});
export type LineFacts = z.infer<typeof LineFacts>;
export const LineFactsList = z.object({
  lines: z.array(LineFacts),
  /** The balance by what is here at the end of the asked day; null where there is no opening. */
  standing: Minor.nullable(),
});
export type LineFactsList = z.infer<typeof LineFactsList>;

/** How a table is to be read where somebody chose. */
export const LayoutChoices = z.object({
  encoding: text(40).optional(),
  delimiter: z.enum([',', ';', '\t', '|']).optional(),
  headerRow: z.int().min(1).max(100_000).nullable().optional(),
  roles: z.array(z.enum(columnRoles).nullable()).max(200).readonly().optional(),
  dates: z.enum(['yearFirst', 'dayFirst', 'monthFirst']).optional(),
  decimal: z.enum(['.', ',']).optional(),
  isTurned: z.boolean().optional(),
});

/** How tables of one shape are read for a bank account. */
export const KeptLayout = z.object({
  bankAccountId: BankAccountId,
  shape: z.string(),
  choices: LayoutChoices,
  times: z.int(),
});
export type KeptLayout = z.infer<typeof KeptLayout>;

export const KeepBatch = z.object({
  uploadId: Id,
  /** Which statement of the file, from 0. */
  statementIndex: z.int().min(0).max(10_000),
  bankAccountId: BankAccountId,
  /** Keep the rest although some records can't be read. */
  acceptRefused: z.boolean(),
  /** The file names another account number than the bank account has, and that is right. */
  confirmNumber: z.boolean(),
  /** The closing balance does not fit what is here, and that is known. */
  confirmBalance: z.boolean(),
  /** Dates after today are right as they are read. */
  confirmDates: z.boolean(),
  /** How a table is to be read where it should not be guessed; null guesses. */
  choices: LayoutChoices.nullable(),
  /** Post the opening balance that the file gives, if there is none yet. */
  withOpening: z.boolean(),
});
export type KeepBatch = z.infer<typeof KeepBatch>;

export const Batch = z.object({
  id: Id,
  bankAccountId: BankAccountId,
  /** The feed that fetched it; null for a file. */
  feedId: FeedId.nullable(),
  /** The batch it was moved from; null where it came in by itself. */
  movedFrom: Id.nullable(),
  fileName: z.string(),
  status: z.enum(batchStatuses),
  format: z.enum(fileFormats).nullable(),
  /** Why nothing was kept, where refused. */
  refusal: z.object({ code: z.string(), message: z.string() }).nullable(),
  problems: z.array(FileProblem),
  fromDate: CalendarDate.nullable(),
  toDate: CalendarDate.nullable(),
  closing: Minor.nullable(),
  closingDate: CalendarDate.nullable(),
  lineCount: z.int(),
  newCount: z.int(),
  createdBy: z.string(),
  createdAt: z.string(),
  /** The step that kept it; null where none did. */
  step: z.int().nullable(),
});
export type Batch = z.infer<typeof Batch>;
/** A batch opened: what it holds and what taking it back would do. */
export const BatchSheet = Batch.extend({
  opening: Minor.nullable(),
  /** Its lines by state now; `shared` are seen by other batches too. */
  counts: z.object({
    open: z.int(),
    posted: z.int(),
    excluded: z.int(),
    shared: z.int(),
    /** Decided lines that no other batch has seen. */
    ownDecided: z.int(),
  }),
  /** The step that took it back, and whether that was an undo; null while it is kept. */
  turnedBy: z.object({ no: z.int(), isUndo: z.boolean() }).nullable(),
  /** Where the bank account's stated balances stop adding up, if within this batch's dates. */
  firstBreak: ChainBreakShown.nullable(),
});
export type BatchSheet = z.infer<typeof BatchSheet>;

/** What tells a line from another, as a person compares them. */
const ComparedFacts = z.object({
  date: CalendarDate,
  amount: Minor,
  description: z.string(),
  reference: z.string().nullable(),
  bankId: z.string().nullable(),
});

/** A line in the words of the batch's file, with what became of it. */
export const BatchLine = ComparedFacts.extend({
  lineId: LineId,
  place: z.int(),
  balance: Minor.nullable(),
  /** `gone`: not in the books now. */
  state: z.enum(['open', ...decisionKinds, 'gone']),
  /** The line that it was found to be, which was there before; null where it came in as one of its own. */
  folded: ComparedFacts.extend({
    /** Whether that line is in the books without this batch too. */
    isHereWithout: z.boolean(),
    /** The file that reported it, and the row there; null where none that is kept did. */
    source: z.string().nullable(),
    place: z.int().nullable(),
  }).nullable(),
  isDoubtful: z.boolean(),
  /** The line that was made of it, because it is another payment; null where none was. */
  apartLineId: LineId.nullable(),
});
export type BatchLine = z.infer<typeof BatchLine>;
export const BatchLines = page(BatchLine);
export type BatchLines = z.infer<typeof BatchLines>;

export const TakeBackBatch = z.object({ decided: z.enum(['stay', 'undo']) });
export type TakeBackBatch = z.infer<typeof TakeBackBatch>;
export const MoveBatch = z.object({ bankAccountId: BankAccountId });
export type MoveBatch = z.infer<typeof MoveBatch>;

/** A line that is written by hand: cash, or one that no file brings. */
export const LineByHand = z.object({
  date: GivenDate,
  amount: GivenAmount,
  description: neededText(300, 'say what it was'),
  reference: typedText(100).nullable(),
});
export type LineByHand = z.infer<typeof LineByHand>;

/** A balance that was counted, or read off, at the end of a day. */
export const BalanceByHand = z.object({ date: GivenDate, amount: GivenAmount });
export type BalanceByHand = z.infer<typeof BalanceByHand>;

export const BatchStarted = z.object({ batchId: BatchId });
export type BatchStarted = z.infer<typeof BatchStarted>;
