import { z } from 'zod';
import { CalendarDate, Id, Minor } from './common.ts';

export const FileProblem = z.object({
  severity: z.enum(['notice', 'refused', 'fatal']),
  line: z.int(),
  field: z.string().nullable(),
  code: z.string(),
  message: z.string(),
  excerpt: z.string().nullable(),
  amount: Minor.nullable(),
});
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

export const KeepBatch = z.object({
  uploadId: Id,
  /** Which statement of the file, from 0. */
  statementIndex: z.int().min(0),
  bankAccountId: Id,
  /** Keep the rest although some records can't be read. */
  acceptRefused: z.boolean(),
  /** The file names another account number than the bank account has, and that is right. */
  confirmNumber: z.boolean(),
  /** Post the opening balance that the file gives, if there is none yet. */
  withOpening: z.boolean(),
});
export type KeepBatch = z.infer<typeof KeepBatch>;

export const Batch = z.object({
  id: Id,
  bankAccountId: Id,
  fileName: z.string(),
  status: z.enum(['reading', 'kept', 'refused', 'takenBack']),
  format: z.string().nullable(),
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
export const BatchStarted = z.object({ batchId: Id });
export type BatchStarted = z.infer<typeof BatchStarted>;
