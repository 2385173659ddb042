import { watchedStates } from '@zubrell/core/intake/watched';
import { z } from 'zod';
import { BankAccountId, BatchId, CalendarDate, FeedId, Id, Minor, text } from './common.ts';

/** A bank that lines can be fetched from. */
export const ConnectedBank = z.object({ connector: z.string(), bankName: z.string() });

export const AskConsent = z.object({ connector: text(40) });
export type AskConsent = z.infer<typeof AskConsent>;
/** Where the customer signs in at the bank. */
export const ConsentAsked = z.object({ page: z.url() });
export type ConsentAsked = z.infer<typeof ConsentAsked>;

/** The bank's answer, as it came back through the browser. */
export const FinishConsent = z.object({
  state: text(100),
  /** Null where the customer refused. */
  code: text(500).nullable(),
});
export type FinishConsent = z.infer<typeof FinishConsent>;
export const ConsentFinished = z.object({ feedIds: z.array(FeedId) });
export type ConsentFinished = z.infer<typeof ConsentFinished>;

/** What came of a fetch. */
export const FeedResult = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('fetched'),
    lineCount: z.int(),
    newCount: z.int(),
    doubtfulCount: z.int(),
    /** Null where nothing was new. */
    batchId: BatchId.nullable(),
    /** The balance the bank states less what is here; null where that is not known. */
    difference: Minor.nullable(),
  }),
  z.object({ kind: z.literal('trouble'), code: z.string(), message: z.string() }),
]);
export type FeedResult = z.infer<typeof FeedResult>;

export const AnnouncedLine = z.object({
  date: CalendarDate,
  amount: Minor,
  description: z.string(),
});

export const Feed = z.object({
  id: Id,
  connector: z.string(),
  bankName: z.string(),
  /** The account as the bank calls it. */
  remoteName: z.string(),
  remoteNumber: z.string().nullable(),
  bankAccountId: BankAccountId.nullable(),
  isDaily: z.boolean(),
  lookBackDays: z.int().nullable(),
  isFetching: z.boolean(),
  lastAt: z.string().nullable(),
  lastGoodAt: z.string().nullable(),
  lastFrom: CalendarDate.nullable(),
  lastTo: CalendarDate.nullable(),
  result: FeedResult.nullable(),
  /** Requests that the bank still takes today, where it says so. */
  callsLeft: z.int().nullable(),
  nextAt: z.string().nullable(),
  failures: z.int(),
  /** The last day of the consent. */
  consentExpires: CalendarDate.nullable(),
  /** What the bank has announced and not booked yet. */
  announced: z.array(AnnouncedLine),
});
export type Feed = z.infer<typeof Feed>;
export const Feeds = z.object({ feeds: z.array(Feed), banks: z.array(ConnectedBank) });
export type Feeds = z.infer<typeof Feeds>;

export const ChangeFeed = z.object({
  bankAccountId: BankAccountId.nullable().optional(),
  isDaily: z.boolean().optional(),
  lookBackDays: z.int().min(1).max(730).nullable().optional(),
});
export type ChangeFeed = z.infer<typeof ChangeFeed>;

/** A file that came from the watched folder. */
export const WatchedFile = z.object({
  id: Id,
  fileName: z.string(),
  at: z.string(),
  state: z.enum(watchedStates),
  /** How many lines of it are new; null until it was read. */
  newCount: z.int().nullable(),
  /** Why it was refused, and what to do. */
  message: z.string().nullable(),
});
export type WatchedFile = z.infer<typeof WatchedFile>;

/** The folder on the server from which files come into these books by themselves. */
export const WatchedFolder = z.object({
  /** Where it is on the server; null where the server watches none. */
  folder: z.string().nullable(),
  isOn: z.boolean(),
  /** Who turned it on: files come in in their name. */
  by: z.string().nullable(),
  since: z.string().nullable(),
  /** Why nothing comes in though it is on. */
  trouble: z.string().nullable(),
  /** The newest, first. */
  files: z.array(WatchedFile),
});
export type WatchedFolder = z.infer<typeof WatchedFolder>;

export const WatchFolder = z.object({ isOn: z.boolean() });
export type WatchFolder = z.infer<typeof WatchFolder>;
