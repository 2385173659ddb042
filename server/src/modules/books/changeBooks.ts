import { BooksSettings, type ChangeBooks } from '@zubrell/contract/books';
import type { StepDone } from '@zubrell/contract/common';
import { monthNames } from '@zubrell/core/dates/calendarDate';
import type { BooksId } from '@zubrell/core/ids';
import { dateSaid, type Said, say } from '@zubrell/core/words/say';
import { eq } from 'drizzle-orm';
import type { Tx } from '../../db/database.ts';
import { books } from '../../db/schema/books.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { plainWords, recordStep } from '../steps/recordStep.ts';

/** Changes how books are worked with: what is closed, demanded, pointed out, and who makes accounts. */
export async function changeBooks(command: BooksCommand, change: ChangeBooks): Promise<StepDone> {
  const { tx, booksId, step } = command;
  const before = await settingsOf(tx, booksId);
  const after: BooksSettings = {
    name: change.name ?? before.name,
    address: change.address ?? before.address,
    taxNumber: change.taxNumber ?? before.taxNumber,
    country: change.country ?? before.country,
    isArchived: change.isArchived ?? before.isArchived,
    lockDate: change.lockDate === undefined ? before.lockDate : change.lockDate,
    assetThreshold:
      change.assetThreshold === undefined ? before.assetThreshold : change.assetThreshold,
    demands: change.demands ?? before.demands,
    yearBegins: change.yearBegins ?? before.yearBegins,
    accountsMadeBy: change.accountsMadeBy ?? before.accountsMadeBy,
    usesOtherBooks: change.usesOtherBooks ?? before.usesOtherBooks,
    leaves: change.leaves ?? before.leaves,
    ages: change.ages ?? before.ages,
    receiptFrom: change.receiptFrom === undefined ? before.receiptFrom : change.receiptFrom,
  };
  await putSettings(command, before, after);
  const words = settingsWords(before, after);
  const items = [{ thing: 'books', thingId: booksId, before, after }] as const;
  await recordStep(command, { kind: 'changeBooks', words, items });
  return { step, words: plainWords(words) };
}

/** The settings of the books. */
export async function settingsOf(tx: Tx, booksId: BooksId): Promise<BooksSettings> {
  const [row] = await tx
    .select({
      name: books.name,
      address: books.address,
      taxNumber: books.taxNumber,
      country: books.country,
      isArchived: books.isArchived,
      lockDate: books.lockDate,
      assetThreshold: books.assetThreshold,
      demands: books.demands,
      yearBegins: books.yearBegins,
      accountsMadeBy: books.accountsMadeBy,
      usesOtherBooks: books.usesOtherBooks,
      leaves: books.leaves,
      ages: books.ages,
      receiptFrom: books.receiptFrom,
    })
    .from(books)
    .where(eq(books.id, booksId));
  return BooksSettings.parse(row);
}

/** Writes settings; where proposals depend on them, they are made anew. */
export async function putSettings(
  command: BooksCommand,
  before: BooksSettings,
  after: BooksSettings,
): Promise<void> {
  const { tx, booksId, follow } = command;
  await tx.update(books).set(after).where(eq(books.id, booksId));
  if (before.lockDate !== after.lockDate) await follow.closingChanged(command, null);
  const isProposedOtherwise =
    before.assetThreshold !== after.assetThreshold ||
    before.usesOtherBooks !== after.usesOtherBooks ||
    JSON.stringify(before.demands) !== JSON.stringify(after.demands);
  if (isProposedOtherwise) await follow.allChanged(command);
}

function settingsWords(before: BooksSettings, after: BooksSettings): Said {
  const { lockDate, accountsMadeBy, usesOtherBooks } = after;
  if (before.lockDate !== lockDate) {
    return lockDate === null
      ? say`Opened all periods`
      : say`Closed the books up to ${dateSaid(lockDate)}`;
  }
  const isElsewhere =
    before.address !== after.address ||
    before.taxNumber !== after.taxNumber ||
    before.country !== after.country;
  if (isElsewhere) return say`Changed the address of the books`;
  if (before.name !== after.name) return say`Renamed the books to ${after.name}`;
  if (before.yearBegins !== after.yearBegins) {
    return say`Set the year to begin in ${monthNames[after.yearBegins - 1] ?? ''}`;
  }
  if (before.isArchived !== after.isArchived) {
    return after.isArchived ? say`Archived the books` : say`Took the books out of the archive`;
  }
  if (before.accountsMadeBy !== accountsMadeBy) {
    return accountsMadeBy === 'owner'
      ? say`Restricted adding accounts to owners`
      : say`Allowed bookkeepers to add accounts`;
  }
  if (before.usesOtherBooks !== usesOtherBooks) {
    return usesOtherBooks
      ? say`Turned on proposals from the owner’s other books`
      : say`Turned off proposals from the owner’s other books`;
  }
  if (JSON.stringify(before.leaves) !== JSON.stringify(after.leaves)) {
    return say`Changed the permissions of roles`;
  }
  if (JSON.stringify(before.ages) !== JSON.stringify(after.ages)) {
    return say`Changed the age limits of open items`;
  }
  return say`Changed the required fields and warnings`;
}
