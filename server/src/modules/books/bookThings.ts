import { BooksSettings, Cycle, HolderNames } from '@zubrell/contract/books';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { nameKey } from '@zubrell/core/text/nameKey';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { IdRow } from '../../db/rows.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { turnedState } from '../steps/putItems.ts';
import { Need } from '../steps/recordStep.ts';
import {
  type InTheWay,
  isHere,
  missingByStanding,
  type ThingHandler,
  Turn,
} from '../steps/things.ts';
import { putSettings, settingsOf } from './changeBooks.ts';
import { AccountState, PayeeState, setAccount, setPayee } from './changeThings.ts';

/** The settings of the books. */
export const booksThing: ThingHandler = {
  standing: async ({ tx, booksId }) => new Map([[booksId, { ...(await settingsOf(tx, booksId)) }]]),
  missing: async () => [],
  put: async (command, turns) => {
    const { tx, booksId } = command;
    for (const turn of turns) {
      const before = await settingsOf(tx, booksId);
      const after = BooksSettings.parse(turnedState({ ...before }, turn));
      await putSettings(command, before, after);
    }
  },
};

type Table = 'tax_codes' | 'accounts' | 'payees' | 'cost_objects' | 'bank_accounts';

interface Kind {
  readonly thing: 'taxCode' | 'account' | 'payee' | 'costObject' | 'bankAccount';
  readonly table: Table;
  /** Columns of the table's row as a JSON object, beside `id`. */
  readonly state: SQL;
  /** Whether row `t` has what row `o` wants for itself: a name, a number, a use. */
  readonly isSame: SQL;
  /** Selects as `thing` and `id` what stands on row `t` as long as it is here. */
  readonly uses: (booksId: BooksId) => SQL;
  readonly change?: (
    command: BooksCommand,
    id: string,
    before: NonNullable<Turn['before']>,
    after: NonNullable<Turn['after']>,
  ) => Promise<void>;
}

const MadeThingRow = z.object({ id: z.string(), isHere: z.boolean(), state: Turn.shape.before });

/** Things that are made once and hidden where that is undone. What is void may still name them. */
export function madeThing({ thing, table, state, isSame, uses, change }: Kind): ThingHandler {
  const name = sql.identifier(table);
  const standing: ThingHandler['standing'] = async ({ tx, booksId }, ids) => {
    const rows = await rowsOf(
      tx,
      MadeThingRow,
      sql`select t.id, t.is_here as "isHere", ${state} as state from ${name} t
          where t.books_id = ${booksId} and t.id = any(${sql.param(ids)}::uuid[]) for update of t`,
    );
    return new Map(rows.map((row) => [row.id, row.isHere ? row.state : null]));
  };
  return {
    standing,
    missing: missingByStanding(thing, standing),
    inTheWay: async (command, turns): Promise<InTheWay> => {
      const { tx, booksId } = command;
      const going = turns.filter(({ after }) => !isHere(after)).map(({ thingId }) => thingId);
      const inUse = await rowsOf(
        tx,
        Need,
        sql`select used.thing, used.id as "thingId" from ${name} t
            cross join lateral (${uses(booksId)}) used
            where t.books_id = ${booksId} and t.id = any(${sql.param(going)}::uuid[])
            limit 20`,
      );
      return { taken: [...inUse, ...(await holders(command, turns))] };
    },
    put: async (command, turns) => {
      const { tx, booksId } = command;
      const switched = turns.filter(({ before, after }) => isHere(before) !== isHere(after));
      const ids = switched.map(({ thingId }) => thingId);
      const isOn = table === 'bank_accounts' ? sql`` : sql`, is_on = put.is_here`;
      await tx.execute(
        sql`update ${name} t set is_here = put.is_here ${isOn}
            from unnest(${sql.param(ids)}::uuid[],
              ${sql.param(switched.map(({ after }) => isHere(after)))}::boolean[]) as put (id, is_here)
            where t.books_id = ${booksId} and t.id = put.id`,
      );
      const now = await standing(
        command,
        turns.map(({ thingId }) => thingId),
      );
      for (const turn of turns) {
        const { thingId, before, after } = turn;
        const was = now.get(thingId) ?? null;
        const next = turnedState(was, turn);
        if (isHere(before) && isHere(after) && was && next)
          await change?.(command, thingId, was, next);
      }
      await command.follow.thingsChanged(command, ids);
    },
  };

  /** Who has a name, number or use that one of these would get. */
  async function holders(command: BooksCommand, turns: readonly Turn[]): Promise<Need[]> {
    const { tx, booksId } = command;
    const coming = turns.filter(({ after }) => isHere(after));
    if (coming.length === 0) return [];
    const ids = sql.param(turns.map(({ thingId }) => thingId));
    const wanted = sql`select ${sql.param(coming.map(({ thingId }) => thingId))}::uuid[]`;
    const after = coming.map((turn) => JSON.stringify(keysOf(turn.after)));
    const rows = await rowsOf(
      tx,
      IdRow,
      sql`select distinct t.id
          from unnest((${wanted}), ${sql.param(after)}::text[]::jsonb[]) as w (id, said)
          join ${name} r on r.books_id = ${booksId} and r.id = w.id
          cross join lateral jsonb_populate_record(r, w.said) o
          join ${name} t on t.books_id = ${booksId} and t.is_here and ${isSame}
          where t.id <> all(${ids}::uuid[])`,
    );
    return rows.map(({ id }) => ({ thing, thingId: id }));
  }
}

/** What of a state decides about names, as columns. */
function keysOf(state: Turn['after']) {
  const { name, code, number, role } = state ?? {};
  return {
    ...(typeof name === 'string' ? { name, name_key: nameKey(name) } : {}),
    ...(code === undefined ? {} : { code }),
    ...(number === undefined ? {} : { number }),
    ...(role === undefined ? {} : { role }),
  };
}

/** The entries in force with a leg that a condition on leg `g` and entry `e` is true of. */
export const entriesWhere = (booksId: BooksId, condition: SQL) => sql`
  select 'entry' as thing, e.id from entries e
  join legs g on g.books_id = e.books_id and g.entry_id = e.id
  where e.books_id = ${booksId} and not e.is_void and ${condition}`;

/** The rules that name row `t`. */
export const rulesNaming = (booksId: BooksId) => sql`
  select 'rule', u.id from rules u
  where u.books_id = ${booksId} and u.is_here and strpos(u.body::text, t.id::text) > 0`;

export const accountThing = madeThing({
  thing: 'account',
  table: 'accounts',
  state: sql`jsonb_build_object('code', t.code, 'name', t.name, 'type', t.type, 'parentId', t.parent_id,
    'purpose', t.purpose, 'role', t.role, 'tax', t.tax, 'isOn', t.is_on,
    'mergedInto', t.merged_into)`,
  isSame: sql`(t.code = o.code or t.role = o.role)`,
  uses: (booksId) => sql`
    ${entriesWhere(booksId, sql`g.account_id = t.id`)}
    union all select 'account', a.id from accounts a
      where a.books_id = ${booksId} and (a.parent_id = t.id or a.merged_into = t.id) and a.is_here
    union all select 'payee', p.id from payees p
      where p.books_id = ${booksId} and (p.account_id = t.id or p.capital_account_id = t.id)
        and p.is_here
    union all ${rulesNaming(booksId)}`,
  change: (command, id, before, after) =>
    setAccount(command, id, AccountState.parse(before), AccountState.parse(after)),
});

export const payeeThing = madeThing({
  thing: 'payee',
  table: 'payees',
  state: sql`jsonb_build_object('name', t.name, 'kind', t.kind, 'address', t.address,
    'taxNumber', t.tax_number, 'country', t.country,
    'termsDays', t.terms_days, 'accountId', t.account_id,
    'capitalAccountId', t.capital_account_id, 'isOn', t.is_on, 'mergedInto', t.merged_into)`,
  isSame: sql`t.name_key = o.name_key`,
  uses: (booksId) => sql`
    ${entriesWhere(booksId, sql`e.payee_id = t.id`)}
    union all ${entriesWhere(
      booksId,
      sql`exists (select from client_shares s
        where s.books_id = g.books_id and s.leg_id = g.id and s.client_id = t.id)`,
    )}
    union all select 'payee', p.id from payees p
      where p.books_id = ${booksId} and p.merged_into = t.id and p.is_here
    union all ${rulesNaming(booksId)}`,
  change: (command, id, before, after) =>
    setPayee(command, id, PayeeState.parse(before), PayeeState.parse(after)),
});

export const costObjectThing = madeThing({
  thing: 'costObject',
  table: 'cost_objects',
  state: sql`jsonb_build_object('kind', t.kind, 'name', t.name)`,
  isSame: sql`t.kind = o.kind and t.name_key = o.name_key`,
  uses: (booksId) => sql`
    ${entriesWhere(booksId, sql`(g.cost_centre_id = t.id or g.job_id = t.id)`)}
    union all ${rulesNaming(booksId)}`,
});

const bankAccounts = madeThing({
  thing: 'bankAccount',
  table: 'bank_accounts',
  state: sql`jsonb_build_object('name', t.name, 'kind', t.kind, 'bank', t.bank, 'number', t.number, 'currency', t.currency,
    'accountId', t.account_id, 'cycle', t.cycle, 'holderNames', t.holder_names)`,
  isSame: sql`t.number = o.number`,
  change: async ({ tx, booksId }, id, _before, after) => {
    await tx.execute(
      sql`update bank_accounts set cycle = ${JSON.stringify(Cycle.parse(after.cycle))}::jsonb,
            holder_names = ${JSON.stringify(HolderNames.parse(after.holderNames ?? {}))}::jsonb
          where books_id = ${booksId} and id = ${id}`,
    );
  },
  uses: (booksId) => sql`
    select 'batch' as thing, b.id from batches b
      where b.books_id = ${booksId} and b.bank_account_id = t.id and b.status = 'kept'
    union all select 'statement', s.id from statements s
      where s.books_id = ${booksId} and s.bank_account_id = t.id and s.is_here
    union all select 'lineHere', l.id from lines l
      where l.books_id = ${booksId} and l.bank_account_id = t.id and l.is_own
    union all ${rulesNaming(booksId)}`,
});

const FedRow = z.object({ name: z.string(), feed: z.string() });

export const bankAccountThing: ThingHandler = {
  ...bankAccounts,
  put: async (command, turns) => {
    const { tx, booksId } = command;
    const going = turns.filter(({ after }) => !isHere(after)).map(({ thingId }) => thingId);
    const [fed] = await rowsOf(
      tx,
      FedRow,
      sql`select b.name, f.remote_name as feed from feeds f
          join bank_accounts b on b.books_id = f.books_id and b.id = f.bank_account_id
          where f.books_id = ${booksId} and f.bank_account_id = any(${sql.param(going)}::uuid[])`,
    );
    if (fed) fail('STEP_FEEDS', { name: fed.name, feed: fed.feed });
    await bankAccounts.put(command, turns);
  },
};
