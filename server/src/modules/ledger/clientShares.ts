import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { type ErrorParams, fail } from '@zubrell/core/errors';
import type { ExchangedLeg } from '@zubrell/core/exchange/exchangedLegs';
import type { AccountId, BooksId, PayeeId } from '@zubrell/core/ids';
import {
  type ClientDay,
  type ClientShare,
  clientShares,
  firstBelowZero,
} from '@zubrell/core/ledger/clientMoney';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { IdRow, idRow, NamedRow } from '../../db/rows.ts';
import { clientMoneyOf } from '../books/clientMoney.ts';
import type { NewEntry } from './insertEntries.ts';

/** What of an entry says whose money moves. */
type SharedEntry = Pick<NewEntry, 'date' | 'kind' | 'payeeId' | 'exchange' | 'clients' | 'legs'>;

/** What of a leg on a bank account that holds clients' money is one client's. */
export interface LegShare extends ClientShare {
  readonly legId: string;
  readonly accountId: AccountId;
}

/**
 * Whose money the legs of entries are, on bank accounts that hold clients' money.
 *
 * @returns the shares of each entry
 * @throws {ZubrellError} CLIENT_MISSING
 */
export async function sharesOfEntries<Entry extends SharedEntry>(
  tx: Tx,
  booksId: BooksId,
  entries: readonly Entry[],
): Promise<ReadonlyMap<Entry, readonly LegShare[]>> {
  const money = await clientMoneyOf(tx, booksId);
  const isHeld = ({ role, accountId }: ExchangedLeg) =>
    role === 'bank' && money.holdsClients(accountId);
  const holding = money.isUsed ? entries.filter(({ legs }) => legs.some(isHeld)) : [];
  if (holding.length === 0) return new Map();
  const customers = await rowsOf(
    tx,
    IdRow,
    sql`select id from payees where books_id = ${booksId} and kind = 'customer'
          and id = any(${sql.param(holding.flatMap(({ payeeId }) => payeeId ?? []))}::uuid[])`,
  );
  const isCustomer = (payeeId: PayeeId) => customers.some(({ id }) => id === payeeId);
  return new Map(
    holding.map((entry) => [
      entry,
      entry.legs.filter(isHeld).flatMap((leg) => {
        const { id: legId, accountId } = leg;
        const shares =
          sharesSaid(entry) ??
          clientShares(entry, leg, { isCustomer }) ??
          fail('CLIENT_MISSING', { account: money.nameOf(accountId) });
        return shares.map((share) => ({ ...share, legId, accountId }));
      }),
    ]),
  );
}

/** What is said of the whole entry: an opening balance is whose it is said to be, and a valuation moves nobody's money. */
function sharesSaid({ kind, clients = [] }: SharedEntry): readonly ClientShare[] | null {
  if (kind === 'opening') return clients;
  return kind === 'valuation' ? [] : null;
}

const ClientRow = NamedRow.extend({ shownId: z.string() });

const DayRow = z.object({
  accountId: idRow<AccountId>(),
  clientId: idRow<PayeeId>(),
  date: z.string(),
  amount: z.int(),
});

/**
 * Of entries that are about to be written, those after which a client's money would be below zero, were all before
 * them written.
 *
 * @returns what the error CLIENT_BELOW_ZERO says of each
 */
export async function belowZero<Entry extends SharedEntry>(
  tx: Tx,
  booksId: BooksId,
  entries: readonly Entry[],
): Promise<ReadonlyMap<Entry, ErrorParams>> {
  const shares = await sharesOfEntries(tx, booksId, entries);
  if (shares.size === 0) return new Map();
  const clientIds = [...shares.values()].flat().map(({ clientId }) => clientId);
  const known = await rowsOf(
    tx,
    ClientRow,
    sql`select p.id, o.id as "shownId", o.name from payees p
        join payees o on o.books_id = p.books_id and o.id = coalesce(p.merged_into, p.id)
        where p.books_id = ${booksId} and p.id = any(${sql.param(clientIds)}::uuid[])`,
  );
  const clients = new Map(known.map((client) => [client.id, client]));
  const rows = await rowsOf(
    tx,
    DayRow,
    sql`select account_id as "accountId", client_id as "clientId", date, sum(amount)::bigint as amount
        from client_movements
        where books_id = ${booksId}
          and client_id = any(${sql.param(known.map(({ shownId }) => shownId))}::uuid[])
        group by 1, 2, 3`,
  );
  const days = new Map<string, ClientDay[]>();
  const daysOf = (accountId: AccountId, clientId: PayeeId) => {
    const key = `${accountId} ${clients.get(clientId)?.shownId ?? clientId}`;
    const own = days.get(key) ?? [];
    days.set(key, own);
    return own;
  };
  for (const { accountId, clientId, ...day } of rows) daysOf(accountId, clientId).push(day);
  const money = await clientMoneyOf(tx, booksId);
  const below = new Map<Entry, ErrorParams>();
  for (const [entry, own] of inOrder([...shares])) {
    const wrong = own.flatMap(({ accountId, clientId, amount }) => {
      const before = daysOf(accountId, clientId);
      const day = firstBelowZero([...before, { date: entry.date, amount }]);
      if (day === null || amount >= 0) return [];
      const date = formatLongDate(day.date);
      const client = clients.get(clientId)?.name ?? '';
      return [{ client, account: money.nameOf(accountId), date }];
    });
    const [first] = wrong;
    if (first) below.set(entry, first);
    else {
      for (const { accountId, clientId, amount } of own) {
        daysOf(accountId, clientId).push({ date: entry.date, amount });
      }
    }
  }
  return below;
}

/** What comes in first, then what goes out by its day: as the end of each day has it. */
function inOrder<Entry extends SharedEntry>(
  shares: readonly (readonly [Entry, readonly LegShare[]])[],
): readonly (readonly [Entry, readonly LegShare[]])[] {
  const goesOut = (own: readonly LegShare[]) => own.some(({ amount }) => amount < 0);
  const [into, out] = [
    shares.filter(([, own]) => !goesOut(own)),
    shares.filter(([, own]) => goesOut(own)),
  ];
  return [...into, ...[...out].sort(([a], [b]) => (a.date < b.date ? -1 : 1))];
}
