import type { CalendarDate } from '../dates/calendarDate.ts';
import { parseDate } from '../dates/parseDate.ts';
import { ZubrellError } from '../errors.ts';
import type { Problem } from '../formats/bankFile.ts';
import { csvRows, delimiterOf } from '../formats/table/csvRows.ts';
import { createXmlReader } from '../formats/xml/readXml.ts';
import type { RecordProblem } from '../ledger/readRecords.ts';
import { crossRate, parseRate, type Rate } from './rate.ts';

/** A rate of a day: how much of the books' currency one unit of the other is worth. */
export interface DayRate {
  readonly currency: string;
  readonly date: CalendarDate;
  readonly rate: Rate;
}

/** What a file of rates says, and what in it can't be read. */
export interface RatesRead {
  readonly rates: readonly DayRate[];
  readonly problems: readonly RecordProblem[];
}

/** What a figure of a file says: one unit of its base is worth so much of a currency. */
interface Quote {
  readonly row: number;
  readonly date: string;
  readonly currency: string;
  readonly figure: string;
}

/** Central banks of the euro area quote one euro; other files say their base, or have the books' currency as base. */
const XML_BASE = 'EUR';
const CODE = /^[A-Z]{3}$/;

/**
 * Reads daily exchange rates from a central bank's open XML, or from CSV. A figure says how much of a currency one
 * unit of the base is worth. CSV is read in two forms: a row for each day with a column for each currency, or a row
 * for each rate with the columns `date`, `currency`, `rate` and perhaps `base`.
 *
 * @param own the books' currency, ISO 4217
 * @returns rates of other currencies into the books' own; where the base is another one, by way of it on the same day
 * @example readRates('Date,USD\n2026-03-03,1.25', 'EUR').rates // [{ currency: 'USD', date: '2026-03-03', rate: '0.8' }]
 */
export function readRates(text: string, own: string): RatesRead {
  const bare = text.replace(/^\uFEFF/, '');
  return bare.trimStart().startsWith('<') ? fromXml(bare, own) : fromCsv(bare, own);
}

function fromXml(text: string, own: string): RatesRead {
  const quotes: Quote[] = [];
  const found: Problem[] = [];
  let date = '';
  const reader = createXmlReader(
    {
      open: (_name, attributes, row) => {
        date = attributes.time ?? attributes.date ?? date;
        const { currency, rate } = attributes;
        if (currency !== undefined && rate !== undefined) {
          quotes.push({ row, date, currency, figure: rate });
        }
      },
      value: () => {},
      close: () => {},
    },
    found,
  );
  reader.write(text);
  const { isRefused } = reader.end();
  const [first] = found;
  if (isRefused || quotes.length === 0) {
    const message = isRefused
      ? 'The XML can’t be read from here on. Fetch the file again.'
      : 'The file has no rates: no element has a currency and a rate.';
    return { rates: [], problems: [{ row: first?.line ?? 1, message }] };
  }
  return ratesOf(quotes, XML_BASE, own);
}

function fromCsv(text: string, own: string): RatesRead {
  const [head, ...body] = csvRows(text, delimiterOf(text), []);
  const headings = (head?.cells ?? []).map((cell) => cell.trim());
  const at = (name: string) => headings.findIndex((each) => each.toLowerCase() === name);
  const [dateAt, currencyAt, rateAt, baseAt] = [at('date'), at('currency'), at('rate'), at('base')];
  if (dateAt === -1) {
    return { rates: [], problems: [{ row: 1, message: 'The first row names no column “date”.' }] };
  }
  if (currencyAt !== -1 && rateAt !== -1) {
    const bases = new Map<string, Quote[]>();
    for (const { place: row, cells } of body) {
      const cell = (column: number) => (cells[column] ?? '').trim();
      if (cells.every((each) => each.trim() === '')) continue;
      const base = (baseAt === -1 ? '' : cell(baseAt)) || own;
      const quote = { row, date: cell(dateAt), currency: cell(currencyAt), figure: cell(rateAt) };
      bases.set(base, [...(bases.get(base) ?? []), quote]);
    }
    const read = [...bases].map(([base, quotes]) => ratesOf(quotes, base, own));
    return {
      rates: read.flatMap(({ rates }) => rates),
      problems: read.flatMap(({ problems }) => problems).sort((a, b) => a.row - b.row),
    };
  }
  const columns = headings.flatMap((name, column) => (CODE.test(name) ? [{ name, column }] : []));
  if (columns.length === 0) {
    const message = 'The first row names no currencies, such as USD, beside the date.';
    return { rates: [], problems: [{ row: 1, message }] };
  }
  const quotes = body.flatMap(({ place: row, cells }) =>
    columns.flatMap(({ name, column }): Quote[] => {
      const figure = (cells[column] ?? '').trim();
      const isSilent = figure === '' || /^(n\/?a|-)$/i.test(figure);
      if (isSilent) return [];
      return [{ row, date: (cells[dateAt] ?? '').trim(), currency: name, figure }];
    }),
  );
  // A file in the euro area's wide form has no column for its own base.
  const base = columns.some(({ name }) => name === own) ? XML_BASE : own;
  return ratesOf(quotes, base, own);
}

/** Figures as rates into the books' currency. */
function ratesOf(quotes: readonly Quote[], base: string, own: string): RatesRead {
  const problems: RecordProblem[] = [];
  const days = new Map<string, Map<string, { readonly row: number; readonly rate: Rate }>>();
  for (const { row, date: said, currency, figure } of quotes) {
    const rate = parseRate(figure);
    const date = dayOf(said);
    const wrong =
      date === null
        ? `“${said}” isn’t a day. Write it as 2026-03-31.`
        : !CODE.test(currency)
          ? `“${currency}” isn’t a currency. Write its three letters, such as USD.`
          : rate === null
            ? `“${figure}” isn’t a rate. Write a number above zero.`
            : null;
    if (date === null || wrong !== null || rate === null) {
      problems.push({ row, message: wrong ?? '' });
      continue;
    }
    const day = days.get(date) ?? new Map();
    day.set(currency, { row, rate });
    days.set(date, day);
  }
  const rates = [...days].flatMap(([date, day]) => {
    const ownRate = base === own ? '1' : day.get(own)?.rate;
    if (ownRate === undefined) {
      const row = [...day.values()][0]?.row ?? 1;
      const message = `${date} has no rate for ${own}, the currency of these books, against ${base}.`;
      problems.push({ row, message });
      return [];
    }
    const all = base === own ? [...day] : [...day, [base, { row: 0, rate: '1' }] as const];
    return all
      .filter(([currency]) => currency !== own)
      .map(([currency, { rate }]) => ({ currency, date, rate: crossRate(ownRate, rate) }));
  });
  return { rates, problems };
}

function dayOf(text: string): CalendarDate | null {
  try {
    return parseDate(text, 'dayFirst');
  } catch (error) {
    if (error instanceof ZubrellError) return null;
    throw error;
  }
}
