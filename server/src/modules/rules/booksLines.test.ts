import { describe, expect, it } from 'vitest';
import { inBooks } from '../../db/database.ts';
import { type Bookkeeper, bookkeeper } from '../../testing/bookkeeper.ts';
import { makeBooks } from '../../testing/client.ts';
import { setScene } from '../../testing/scene.ts';
import { booksLines } from './booksLines.ts';

const scene = setScene();

/** Books of seven lines, a day each; the first and the third are open, all others posted. */
async function sevenLines(): Promise<{ readonly mo: Bookkeeper; readonly booksId: string }> {
  const books = await makeBooks(scene.client);
  const mo = bookkeeper(scene.client, books.id);
  const freight = await mo.accountId('6010');
  for (let day = 1; day <= 7; day += 1) {
    const date = `2026-03-0${day}`;
    const { id } = await mo.addLine(books.bankAccountId, date, -100 * day, `TIDEMARK ${day}`);
    if (day !== 1 && day !== 3) await mo.post([id], mo.codingTo(freight));
  }
  return { mo, booksId: books.id };
}

const read = async (booksId: string, newest: number, page: number) => {
  const { lines, isAll } = await inBooks(scene.harness.database, booksId, (tx) =>
    booksLines(tx, booksId, { newest, page }),
  );
  return { isAll, days: lines.map(({ facts }) => Number(facts.date.slice(-1))) };
};

describe('the lines that rules are tried on', () => {
  it.each([1, 2, 3, 7, 100])('are all where there are few, read by %i', async (page) => {
    const { booksId } = await sevenLines();
    expect(await read(booksId, 100, page)).toEqual({ isAll: true, days: [7, 6, 5, 4, 3, 2, 1] });
  });

  it.each([1, 2])('are the newest of many, and what is open, read by %i', async (page) => {
    const { mo, booksId } = await sevenLines();
    expect(await read(booksId, 4, page)).toEqual({ isAll: false, days: [7, 6, 5, 4, 3, 1] });
    // What steps change since is put there as well, however old it is.
    await mo.undo();
    const [line] = (await mo.open()).filter(({ date }) => date === '2026-03-01');
    await mo.post([line?.id ?? ''], mo.codingTo(await mo.accountId('6010')));
    expect((await read(booksId, 4, page)).days).toEqual([7, 6, 5, 4, 3, 1]);
  });
});
