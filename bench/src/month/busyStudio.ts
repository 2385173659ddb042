import { daysOf } from '@zubrell/demo/days';
import type { Business } from '@zubrell/demo/scenario/business';
import { lastMonth } from '@zubrell/demo/scenario/files';
import { larkmoor } from '@zubrell/demo/scenario/larkmoor';
import { type MadeLine, makeLines } from '@zubrell/demo/scenario/makeLines';
import { seedBusiness } from '@zubrell/demo/seed';
import { clockFixedAt } from '@zubrell/server/clock';
import { openReaderPool } from '@zubrell/server/modules/intake/readInThread';
import { type BenchBooks, makeBenchBooks } from '../benchBooks.ts';
import { inBrowser, type Opened } from '../inBrowser.ts';
import { sized } from '../sized.ts';

/** So many times as much comes in as in the demo, for a month of about 500 lines. */
const BUSIER = sized(3.4, 1);
const FIRST = sized('2025-09', '2026-01');

/** The demo's studio at its busiest. */
export function busyStudio(): Business {
  const scaled = (most: number) => (most > 2 ? Math.round(most * BUSIER) : most);
  return {
    ...larkmoor,
    oddFiles: () => [],
    patterns: larkmoor.patterns.map((pattern) => {
      const [least, most] = pattern.perMonth;
      return { ...pattern, perMonth: [scaled(least), scaled(most)] as const };
    }),
  };
}

/** A business whose last month waits on the Desk of a signed-in browser. */
export interface BegunMonth extends Opened {
  readonly books: BenchBooks;
  readonly booksId: string;
  /** All lines as they really are. */
  readonly made: readonly MadeLine[];
}

/** Has a business with its months before posted, and its last one open, while something is measured. */
export async function inMonth(
  business: Business,
  measure: (begun: BegunMonth) => Promise<string>,
): Promise<string> {
  const books = await makeBenchBooks();
  const readers = openReaderPool();
  const { database, owner, actor } = books;
  const clock = clockFixedAt('2026-04-08');
  try {
    const { readFile } = readers;
    const loading = { database, at: daysOf(owner), actor, readFile };
    const booksId = await seedBusiness(loading, business, FIRST);
    const made = makeLines(business, FIRST, lastMonth);
    return await inBrowser({ clock, database }, actor.userId, (opened) =>
      measure({ ...opened, books, booksId, made }),
    );
  } finally {
    await readers.close();
    await books.drop().catch(() => undefined);
  }
}
