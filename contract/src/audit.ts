import { recordGroups, recordKinds } from '@zubrell/core/audit/recordKinds';
import { z } from 'zod';
import { Id, page, UserId } from './common.ts';

/** A group of kinds of records. */
export const RecordGroup = z.enum(recordGroups);
export type RecordGroup = z.infer<typeof RecordGroup>;

/** Something that is on record: a sign-in, a refusal, a change of who may do what. */
export const AuditRecord = z.object({
  /** Names it among all that are shown. */
  key: z.string(),
  at: z.string(),
  kind: z.enum(recordKinds),
  /** Who did it; null where nobody known did. */
  who: z.string().nullable(),
  /** Whom it concerns, beside who did it. */
  about: z.string().nullable(),
  /** A name that was given with it, as of somebody invited. */
  name: z.string().nullable(),
  address: z.string().nullable(),
  browser: z.string().nullable(),
  details: z.record(z.string(), z.union([z.string(), z.number(), z.boolean(), z.null()])),
  /** What the step says of itself by which it was done. */
  words: z.string().nullable(),
});
export type AuditRecord = z.infer<typeof AuditRecord>;

export const AuditRecords = page(AuditRecord).extend({
  /** Everybody whom a record names as who did it. */
  people: z.array(z.object({ id: Id, name: z.string() })),
});
export type AuditRecords = z.infer<typeof AuditRecords>;

/** Which records are wanted; what is left out wants all. */
export const RecordsWanted = z.object({
  group: RecordGroup.optional(),
  userId: UserId.optional(),
});
export type RecordsWanted = z.infer<typeof RecordsWanted>;

/** What can be saved as a file from books. */
export const Exported = z.object({ what: z.enum(['coding', 'records', 'report', 'chart']) });
export type Exported = z.infer<typeof Exported>;

/** A row of a chain that is not as it was written. */
export const ChainFault = z.object({
  no: z.number(),
  /**
   * `changed` it or the one before; `missing` it is not there; `open` it was never sealed; `forgotten` what is personal
   * is gone, and its person is not erased.
   */
  what: z.enum(['changed', 'missing', 'open', 'forgotten']),
});
export type ChainFault = z.infer<typeof ChainFault>;

/** What became of looking through a chain. */
export const ChainCheck = z.object({
  chain: z.enum(['steps', 'records', 'signIns']),
  count: z.number(),
  faults: z.array(ChainFault),
  /** The hash at its end: whoever has noted it can prove later that nothing before it was changed. */
  head: z.string(),
});
export type ChainCheck = z.infer<typeof ChainCheck>;
export const ChainChecks = z.object({ chains: z.array(ChainCheck) });
export type ChainChecks = z.infer<typeof ChainChecks>;
