import type { BooksSettings, ChangeBooks } from '@zubrell/contract/books';
import type { StepDone } from '@zubrell/contract/common';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { eq } from 'drizzle-orm';
import type { Tx } from '../../db/database.ts';
import { books } from '../../db/schema/books.ts';
import type { Actor, Services } from '../../services.ts';
import { renewAll } from '../lines/proposals.ts';
import { recordStep, takeStepNumber } from '../steps/recordStep.ts';

/** Changes how books are worked with: what is closed, demanded, pointed out, and who makes accounts. */
export async function changeBooks(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  change: ChangeBooks,
): Promise<StepDone> {
  const before = await settingsOf(tx, booksId);
  const after: BooksSettings = {
    lockDate: change.lockDate === undefined ? before.lockDate : change.lockDate,
    assetThreshold:
      change.assetThreshold === undefined ? before.assetThreshold : change.assetThreshold,
    demands: change.demands ?? before.demands,
    accountsMadeBy: change.accountsMadeBy ?? before.accountsMadeBy,
  };
  await putSettings(tx, booksId, before, after);
  const step = await takeStepNumber(tx, booksId);
  const words = settingsWords(before, after);
  const items = [{ thing: 'books', thingId: booksId, before, after }] as const;
  await recordStep(tx, services, booksId, actor, step, { kind: 'changeBooks', words, items });
  return { step, words };
}

/** Sets settings back to what they were before a step, or forth. @returns whether they stood as it left them */
export async function turnSettings(
  tx: Tx,
  booksId: string,
  from: Partial<BooksSettings>,
  to: Partial<BooksSettings>,
): Promise<boolean> {
  const before = await settingsOf(tx, booksId);
  const stood = (Object.keys(from) as (keyof BooksSettings)[]).every(
    (name) => JSON.stringify(from[name]) === JSON.stringify(before[name]),
  );
  if (stood) await putSettings(tx, booksId, before, { ...before, ...to });
  return stood;
}

async function settingsOf(tx: Tx, booksId: string): Promise<BooksSettings> {
  const [row] = await tx
    .select({
      lockDate: books.lockDate,
      assetThreshold: books.assetThreshold,
      demands: books.demands,
      accountsMadeBy: books.accountsMadeBy,
    })
    .from(books)
    .where(eq(books.id, booksId));
  return row as BooksSettings;
}

async function putSettings(
  tx: Tx,
  booksId: string,
  before: BooksSettings,
  after: BooksSettings,
): Promise<void> {
  await tx.update(books).set(after).where(eq(books.id, booksId));
  const isProposedOtherwise =
    before.assetThreshold !== after.assetThreshold ||
    JSON.stringify(before.demands) !== JSON.stringify(after.demands);
  if (isProposedOtherwise) await renewAll(tx, booksId);
}

function settingsWords(before: BooksSettings, { lockDate, accountsMadeBy }: BooksSettings): string {
  if (before.lockDate !== lockDate) {
    return lockDate === null
      ? 'Opened all periods'
      : `Closed the books up to ${formatLongDate(lockDate)}`;
  }
  if (before.accountsMadeBy !== accountsMadeBy) {
    return accountsMadeBy === 'owner'
      ? 'Left making accounts to the owner'
      : 'Let bookkeepers make accounts';
  }
  return 'Changed what these books demand and point out';
}
