import { addDays } from '@zubrell/core/dates/calendarDate';
import { inBooks, rowsOf } from '@zubrell/server/db/database';
import { openReaderPool } from '@zubrell/server/modules/intake/readInThread';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { makeBenchBooks } from './benchBooks.ts';
import { sized } from './sized.ts';

// Keeps one very large file and prints what it took. A process of its own, so that its memory is only that.

const LINES = sized(1_000_000, 1_000);
const A_DAY = 400;
const A_PIECE = 500;

let size = 0;

async function* file(): AsyncGenerator<Uint8Array> {
  const encoder = new TextEncoder();
  const send = (text: string): Uint8Array => {
    const bytes = encoder.encode(text);
    size += bytes.length;
    return bytes;
  };
  yield send(
    '<?xml version="1.0" encoding="UTF-8"?>\n<?OFX OFXHEADER="200" VERSION="220"?>\n' +
      '<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR</CURDEF><BANKACCTFROM><BANKID>WICK</BANKID>' +
      '<ACCTID>4471</ACCTID><ACCTTYPE>CHECKING</ACCTTYPE></BANKACCTFROM><BANKTRANLIST>\n',
  );
  for (let start = 0; start < LINES; start += A_PIECE) {
    let text = '';
    for (let index = start; index < start + A_PIECE; index += 1) {
      const date = addDays('2018-01-01', Math.floor(index / A_DAY)).replaceAll('-', '');
      text +=
        `<STMTTRN><TRNTYPE>DEBIT</TRNTYPE><DTPOSTED>${date}</DTPOSTED>` +
        `<TRNAMT>-${((index % 9_000) / 100 + 1).toFixed(2)}</TRNAMT><FITID>F${index}</FITID>` +
        `<NAME>CRD PUR TIDEMARK FRT ${20_000 + (index % 999)}</NAME></STMTTRN>\n`;
    }
    yield send(text);
  }
  yield send('</BANKTRANLIST></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>\n');
}

const readers = openReaderPool();
const books = await makeBenchBooks();
const LinesRow = z.object({ lines: z.number() });

try {
  const batchId = await books.upload(file());
  const began = performance.now();
  await books.keep(batchId, readers.readFile);
  const seconds = (performance.now() - began) / 1_000;
  const [kept] = await inBooks(books.database, books.booksId, (tx) =>
    rowsOf(
      tx,
      LinesRow,
      sql`select count(*)::int as lines from lines where books_id = ${books.booksId}`,
    ),
  );
  process.stdout.write(
    JSON.stringify({
      lines: kept?.lines ?? 0,
      megabytes: Math.round(size / 1e6),
      seconds: Math.round(seconds),
      // Kilobytes on Linux, of all threads together.
      peak: Math.round(process.resourceUsage().maxRSS / 1_024),
    }),
  );
} finally {
  await readers.close();
  await books.drop();
}
