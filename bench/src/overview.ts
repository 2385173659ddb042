import { clockFixedAt } from '@zubrell/server/clock';
import { asUser, inBooks } from '@zubrell/server/db/database';
import { createBooks } from '@zubrell/server/modules/books/createBooks';
import { booksOverview } from '@zubrell/server/modules/overview/booksOverview';
import { summarise } from '@zubrell/server/modules/overview/summarise';
import { makeBenchBooks } from './benchBooks.ts';
import { type Benchmark, median, timed } from './ratio.ts';
import { sized } from './sized.ts';

const BOOKS = sized(200, 3);
const ROUNDS = sized(15, 2);
const AIM = 100;
const TODAY = '2026-04-08';

/** How long the list of many books takes, each with its kept summary. */
export const overview: Benchmark = async () => {
  const { database, actor, drop } = await makeBenchBooks();
  try {
    for (let at = 1; at < BOOKS; at += 1) {
      const wanted = { name: `Books ${at}`, currency: 'EUR' };
      const booksId = await database.transaction((tx) =>
        createBooks(tx, { clock: clockFixedAt(TODAY) }, actor, wanted),
      );
      await inBooks(database, booksId, (tx) => summarise(tx, booksId, TODAY));
    }
    const times: number[] = [];
    let count = 0;
    for (let round = 0; round < ROUNDS; round += 1) {
      times.push(
        await timed(async () => {
          const found = await asUser(database, actor.userId, (tx) =>
            booksOverview(tx, actor.userId),
          );
          count = found.length;
        }),
      );
    }
    const time = median(times);
    return (
      `the list of ${count} books with what is left in each\n  half within ${time.toFixed(0)} ms` +
      ` (aim: ${AIM})  ${time <= AIM ? 'met' : 'NOT MET'}\n`
    );
  } finally {
    await drop();
  }
};
