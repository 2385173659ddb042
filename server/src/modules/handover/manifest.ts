import { BooksSettings } from '@zubrell/contract/books';
import { CalendarDate, Minor } from '@zubrell/contract/common';
import { z } from 'zod';

/** The form of archives that this version writes and reads. */
export const ARCHIVE_VERSION = 1;
export const MANIFEST = 'data/manifest.json';

/** How books are worked with, as far as it goes with them. */
export const KeptSettings = BooksSettings.omit({
  isArchived: true,
  lockDate: true,
  usesOtherBooks: true,
});

/** What an archive says of itself: its books, its files, and what their balances come to. */
export const Manifest = z.object({
  kind: z.literal('zubrell archive'),
  version: z.int().min(1),
  currency: z.string().regex(/^[A-Z]{3}$/),
  from: CalendarDate,
  to: CalendarDate,
  settings: KeptSettings,
  /** The SHA-256 of each file of `data`, in hexadecimal, by its name. */
  files: z.record(z.string(), z.string().regex(/^[0-9a-f]{64}$/)),
  /** The trial balance on the last day by account code, debit positive; none is nil. */
  balances: z.record(z.string(), Minor),
});
export type Manifest = z.infer<typeof Manifest>;
