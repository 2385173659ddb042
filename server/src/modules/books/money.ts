import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import {
  type Exchange,
  type ExchangedLeg,
  exchangedLegs,
} from '@zubrell/core/exchange/exchangedLegs';
import {
  inBooksCurrency,
  inOtherCurrency,
  OLDEST_RATE,
  type Rate,
} from '@zubrell/core/exchange/rate';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import { roleNames } from '@zubrell/core/ledger/accountRoles';
import type { Leg } from '@zubrell/core/ledger/buildLegs';
import type { Minor } from '@zubrell/core/money/minor';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';

/** A day on which something is in a currency. */
export interface CurrencyDay {
  readonly currency: string;
  readonly date: string;
}

/** Legs as they are posted, with the rate they were taken into the books at; null where it is their own currency. */
export interface TakenIn {
  readonly legs: readonly ExchangedLeg[];
  readonly exchange: Exchange | null;
}

/** How amounts of bank accounts and documents are taken into the books. */
export interface BooksMoney {
  /** The books' currency, ISO 4217. */
  readonly own: string;
  /** The currency of a bank account, by its ledger account; null where it stands for none. */
  readonly currencyOf: (accountId: AccountId) => string | null;
  /**
   * The rate of a day; null where the currency is the books' own.
   *
   * @param typed the rate that somebody gave
   * @throws {ZubrellError} RATE_MISSING
   */
  readonly exchange: (day: CurrencyDay, typed?: Rate | null) => Exchange | null;
  /** The rate of a day in the table; null where none is near. */
  readonly rateOn: (day: CurrencyDay) => Rate | null;
  /** What an amount is worth in the books' currency by the rate of its day; null where none is near. */
  readonly worth: (given: CurrencyDay & { readonly amount: Minor }) => Minor | null;
  /** @throws {ZubrellError} ACCOUNT_ROLE_MISSING */
  readonly differenceAccount: () => AccountId;
  /**
   * Legs of one currency in that of the books. A leg on a bank account of a third currency gets what the rate of the
   * day says until its own line comes.
   *
   * @throws {ZubrellError} RATE_MISSING, ACCOUNT_ROLE_MISSING
   */
  readonly takeIn: (legs: readonly Leg[], day: CurrencyDay, typed?: Rate | null) => TakenIn;
}

const BooksRow = z.object({
  own: z.string(),
  differenceAccount: idRow<AccountId>().nullable(),
  accounts: z.array(z.object({ accountId: z.string(), currency: z.string() })),
  /** Those that rates are known of. */
  rated: z.array(z.string()),
});

const RateRow = z.object({ currency: z.string(), date: z.string(), rate: z.string().nullable() });

/** Loads how money is taken into the books on some days. */
export async function loadMoney(
  tx: Tx,
  booksId: BooksId,
  days: readonly CurrencyDay[],
): Promise<BooksMoney> {
  const [books] = await rowsOf(
    tx,
    BooksRow,
    sql`select k.currency as own,
          (select a.id from accounts a where a.books_id = k.id and a.role = 'exchange' and a.is_here)
            as "differenceAccount",
          (select coalesce(json_agg(json_build_object('accountId', b.account_id,
              'currency', coalesce(b.currency, k.currency))), '[]')
            from bank_accounts b where b.books_id = k.id and b.is_here) as accounts,
          array(select distinct r.currency from exchange_rates r
            where r.books_id = k.id and r.is_here) as rated
        from books k where k.id = ${booksId}`,
  );
  if (!books) fail('BOOKS_UNKNOWN');
  const { own, differenceAccount, accounts, rated } = books;
  const currencies = new Map(accounts.map(({ accountId, currency }) => [accountId, currency]));
  const others = new Set([
    ...currencies.values(),
    ...rated,
    ...days.map(({ currency }) => currency),
  ]);
  others.delete(own);
  const wanted = others.size === 0 ? [] : daysOf(days, [...others]);
  const rates: ReadonlyMap<string, Rate> =
    wanted.length === 0 ? new Map() : await ratesOn(tx, booksId, wanted);

  const rateOn = ({ currency, date }: CurrencyDay) => rates.get(`${currency} ${date}`) ?? null;
  const exchange: BooksMoney['exchange'] = (day, typed = null) => {
    const { currency, date } = day;
    if (currency === own) return null;
    const rate =
      typed ?? rateOn(day) ?? fail('RATE_MISSING', { currency, own, date: formatLongDate(date) });
    return { currency, rate };
  };
  const difference = () =>
    differenceAccount ?? fail('ACCOUNT_ROLE_MISSING', { what: roleNames.exchange });
  const currencyOf = (accountId: AccountId) => currencies.get(accountId) ?? null;

  return {
    own,
    currencyOf,
    exchange,
    rateOn,
    worth: ({ amount, ...day }) => {
      if (day.currency === own) return amount;
      const rate = rateOn(day);
      return rate === null ? null : inBooksCurrency(amount, rate, day.currency, own);
    },
    differenceAccount: difference,
    takeIn: (legs, day, typed) => {
      const at = exchange(day, typed);
      const taken = at === null ? legs : exchangedLegs(legs, at, own, difference);
      const isPlain = at === null && others.size === 0;
      return {
        exchange: at,
        legs: isPlain
          ? legs
          : taken.map((leg): ExchangedLeg => {
              const there = leg.role === 'bank' ? currencyOf(leg.accountId) : null;
              if (there === null || there === day.currency) return leg;
              const other = exchange({ currency: there, date: day.date });
              const original =
                other === null ? null : inOtherCurrency(leg.amount, other.rate, own, there);
              return { ...leg, original };
            }),
      };
    },
  };
}

/** Every other currency on each day: a move may go to an account of any. */
function daysOf(days: readonly CurrencyDay[], others: readonly string[]): readonly CurrencyDay[] {
  const dates = [...new Set(days.map(({ date }) => date))];
  return dates.flatMap((date) => others.map((currency) => ({ currency, date })));
}

async function ratesOn(
  tx: Tx,
  booksId: BooksId,
  days: readonly CurrencyDay[],
): Promise<ReadonlyMap<string, Rate>> {
  const rows = await rowsOf(
    tx,
    RateRow,
    sql`select w.currency, w.date, (
            select trim_scale(r.rate)::text from exchange_rates r
            where r.books_id = ${booksId} and r.is_here and r.currency = w.currency
              and r.date between w.date - ${OLDEST_RATE}::int and w.date
            order by r.date desc limit 1) as rate
        from unnest(
          ${sql.param(days.map(({ currency }) => currency))}::text[],
          ${sql.param(days.map(({ date }) => date))}::date[]) as w (currency, date)`,
  );
  return new Map(
    rows.flatMap(({ currency, date, rate }) =>
      rate === null ? [] : [[`${currency} ${date}`, rate] as const],
    ),
  );
}
