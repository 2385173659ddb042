import { formatLongDate } from '../dates/calendarDate.ts';

/** A file of an archive, as its page tells of it. */
export interface ArchiveFile {
  readonly name: string;
  /** What it holds, in a few words. */
  readonly what: string;
  /** Rows, or files in a folder. */
  readonly count: number;
}

/** What the page of an archive says. */
export interface ArchiveFacts {
  readonly books: string;
  readonly currency: string;
  /** First and last day. */
  readonly from: string;
  readonly to: string;
  /** When it was made, as the server's clock has it, and by whom. */
  readonly madeAt: string;
  readonly madeBy: string;
  readonly files: readonly ArchiveFile[];
  /** The trial balance's sums, as they are read. */
  readonly debits: string;
  readonly credits: string;
}

const asText = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** The page of an archive that says what is in it: plain HTML, without anything from elsewhere. */
export function archivePage(facts: ArchiveFacts): string {
  const { books, currency, from, to, madeAt, madeBy, files, debits, credits } = facts;
  const rows = files.map(
    ({ name, what, count }) =>
      `<tr><td><a href="${encodeURI(name)}">${asText(name)}</a></td><td>${asText(what)}</td><td>${count}</td></tr>`,
  );
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>${asText(books)}, ${formatLongDate(from)} to ${formatLongDate(to)}</title>
<style>
body { font: 16px/1.5 sans-serif; margin: 2rem auto; max-width: 56rem; padding: 0 1rem; }
table { border-collapse: collapse; width: 100%; }
td, th { border-bottom: 1px solid #ccc; padding: .25rem .5rem; text-align: left; vertical-align: top; }
td:last-child, th:last-child { text-align: right; }
</style>
</head>
<body>
<h1>${asText(books)}</h1>
<p>The books from ${formatLongDate(from)} to ${formatLongDate(to)}, in ${asText(currency)}.
Made by ${asText(madeBy)} on ${asText(madeAt)}.</p>
<p>On the last day, the trial balance comes to ${asText(debits)} on the debit side and ${asText(credits)} on the
credit side.</p>
<table>
<thead><tr><th>File</th><th>What it holds</th><th>Rows</th></tr></thead>
<tbody>
${rows.join('\n')}
</tbody>
</table>
<p>The files named here are for people: open them in any spreadsheet. Amounts are decimals; in the journal, debits and credits are in separate columns. The folder <code>data</code> holds the same as exact rows, amounts in the
smallest unit of their currency. With it, Zubrell reads the archive into new books: on the list of books, choose
<em>New books</em>, then <em>Read an archive</em>.</p>
<p>What was before ${formatLongDate(from)} is brought forward: bank accounts with an opening balance, open documents with
what was open of them, and other balances in one journal on the day before.</p>
</body>
</html>
`;
}
