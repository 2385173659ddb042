import type { RuleBody, RuleResult } from '@zubrell/contract/rules';
import { fail } from '@zubrell/core/errors';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { type Database, inBooks, rowsOf, type Tx } from '@zubrell/server/db/database';
import { changeAccount } from '@zubrell/server/modules/books/changeThings';
import { createAccount } from '@zubrell/server/modules/books/makeThings';
import { markHabit } from '@zubrell/server/modules/habits/markHabit';
import { recodeLines } from '@zubrell/server/modules/lines/recodeLines';
import { changeRule, createRule } from '@zubrell/server/modules/rules/changeRules';
import { ruleRows } from '@zubrell/server/modules/rules/ruleRows';
import type { Actor, Services } from '@zubrell/server/services';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import type { Seeding } from './days.ts';

/** From this month on Larkmoor has rules, so that they have a record by now. */
const RULES_FROM = '2025-08';
/** From this month on two of them post at once. */
const AT_ONCE_FROM = '2026-03';

interface Ids {
  readonly account: (code: string) => string;
  readonly bank: (name: string) => string;
  readonly payee: (name: string) => string | null;
  readonly tax: (name: string) => string | null;
}

/** A rule of the demo: what it is called, says and shows. */
interface MadeRule {
  readonly name: string;
  readonly isOn?: boolean;
  readonly body: (ids: Ids) => RuleBody;
}

type Condition = RuleBody['takes']['conditions'][number];
const has = (text: string, test: 'has' | 'startsWith' = 'has'): Condition => ({
  kind: 'text',
  field: 'wording',
  test,
  text,
  isExact: false,
});

function rule(
  direction: 'in' | 'out',
  banks: readonly string[] | null,
  conditions: readonly Condition[],
  result: (ids: Ids) => RuleResult,
): MadeRule['body'] {
  return (ids) => ({
    takes: {
      direction,
      bankAccountIds: banks?.map(ids.bank) ?? null,
      match: 'all',
      conditions: [...conditions],
    },
    result: result(ids),
    after: { kind: 'hold' },
  });
}

function code(account: string, tax: string | null, payee: string | null = null) {
  return (ids: Ids): RuleResult => {
    const payeeId = payee === null ? null : ids.payee(payee);
    const taxCodeId = tax === null ? null : ids.tax(tax);
    return {
      kind: 'code',
      payee: payeeId === null ? { kind: 'open' } : { kind: 'fixed', payeeId },
      parts: [{ accountId: ids.account(account), taxCodeId, share: { kind: 'rest' } }],
      note: null,
    };
  };
}

/** One rule for each thing that can become of rules; the comments say what shows. */
const RULES: readonly MadeRule[] = [
  // Changed by hand on most of its lines: the shopping is mostly for the studio.
  {
    name: 'Owner’s groceries',
    body: rule('out', ['Studio card'], [has('brindle foods')], code('3020', null)),
  },
  {
    name: 'Tidemark import freight',
    body: rule(
      'out',
      ['Everyday', 'Studio card'],
      [has('tidemark'), has('import')],
      code('5020', null),
    ),
  },
  // Off: a habit does it.
  {
    name: 'Tidemark freight',
    isOn: false,
    body: rule('out', null, [has('tidemark')], code('6010', null)),
  },
  // Kept so often that it may post at once.
  {
    name: 'Hedgerow payouts',
    body: rule(
      'in',
      ['Everyday'],
      [has('hedgerow cards', 'startsWith')],
      code('4010', null, 'Hedgerow Cards'),
    ),
  },
  { name: 'Pitch fees', body: rule('out', null, [has('saltmarsh')], code('6020', null)) },
  // Never gets a turn.
  {
    name: 'Saltmarsh pitch',
    body: rule('out', ['Everyday'], [has('saltmarsh'), has('pitch')], code('6040', null)),
  },
  {
    name: 'Monthly move to the tax pot',
    body: rule('out', ['Everyday'], [has('tax pot')], (ids) => ({
      kind: 'transfer',
      bankAccountId: ids.bank('Tax pot'),
    })),
  },
  // Off, and fixed on an amount.
  {
    name: 'Kiln lease',
    isOn: false,
    body: rule(
      'out',
      ['Everyday'],
      [
        { kind: 'amount', from: 41_200, to: 41_200 },
        { kind: 'day', from: 1, to: 3 },
      ],
      code('6040', null),
    ),
  },
  // Takes nothing any more since the premium went up.
  {
    name: 'Dunmere policy',
    body: rule(
      'out',
      null,
      [has('dunmere'), { kind: 'amount', from: 4_100, to: 4_100 }],
      code('6060', null),
    ),
  },
  // Names an account that was switched off.
  {
    name: 'Gallery consignments',
    body: rule(
      'in',
      null,
      [has('marlstone'), has('consignment'), { kind: 'date', from: '2026-05-01', to: null }],
      code('4060', null),
    ),
  },
  {
    name: 'Stall deposits',
    body: rule('out', null, [has('stall deposit')], () => ({
      kind: 'ask',
      askedOf: 'Ines Varga',
      words: 'Does the deposit for {description} come back?',
    })),
  },
  // Posted at once until one of its lines was changed by hand.
  {
    name: 'Parcel lockers',
    body: rule('out', ['Studio card'], [has('parcel locker')], code('6010', null)),
  },
];

/** Writes Larkmoor's rules before the lines of a month come in, or changes them as its bookkeeper would. */
export async function seedRules(
  { database, at, booksId, actor }: Seeding,
  month: string,
): Promise<void> {
  if (month !== RULES_FROM && month !== AT_ONCE_FROM) return;
  const services = await at(`${month}-02`);
  await inBooks(database, booksId, async (tx) => {
    if (month === AT_ONCE_FROM) {
      for (const name of ['Hedgerow payouts', 'Parcel lockers']) {
        await postAtOnce(tx, services, { booksId, actor }, name);
      }
      return;
    }
    const parentId = (await idsOf(tx, booksId)).account('4000');
    const closed = { code: '4060', name: 'Consignments', type: 'income', parentId } as const;
    const { id } = await createAccount(await beginCommand(tx, services, booksId, actor), closed);
    const ids = await idsOf(tx, booksId);
    for (const { name, isOn = true, body } of RULES) {
      await createRule(await beginCommand(tx, services, booksId, actor), {
        name,
        isOn,
        body: body(ids),
        seenStep: 0,
      });
    }
    await changeAccount(await beginCommand(tx, services, booksId, actor), id, { isOn: false });
  });
}

async function postAtOnce(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  { booksId, actor }: Pick<Seeding, 'booksId' | 'actor'>,
  name: string,
): Promise<void> {
  const row = (await ruleRows(tx, booksId)).find((each) => each.name === name);
  if (!row) fail('RULE_UNKNOWN');
  const body: RuleBody = { ...row.body, after: { kind: 'post', largest: 20_000 } } as RuleBody;
  const seenStep = Number.MAX_SAFE_INTEGER;
  await changeRule(await beginCommand(tx, services, booksId, actor), row.id, {
    name,
    isOn: true,
    body,
    seenStep,
  });
}

const LineIdRow = z.object({ lineId: z.string() });

/** What the bookkeeper did after all files were in: one correction, and one habit that is not to be learned. */
export async function seedSecondThoughts(
  database: Database,
  booksId: string,
  actor: Actor,
  services: Pick<Services, 'clock'>,
): Promise<void> {
  await inBooks(database, booksId, async (tx) => {
    const [posted] = await rowsOf(
      tx,
      LineIdRow,
      sql`select dl.line_id as "lineId" from decisions d
          join rules r on r.books_id = d.books_id and r.id = d.rule_id
          join decision_lines dl on dl.books_id = d.books_id and dl.decision_id = d.id and dl.is_live
          where d.books_id = ${booksId} and d.way = 'rule' and r.name = 'Parcel lockers'
          order by d.step desc limit 1`,
    );
    const accountId = (await idsOf(tx, booksId)).account('6070');
    if (posted) {
      const command = await beginCommand(tx, services, booksId, actor);
      await recodeLines(command, [posted.lineId], { accountId }, Number.MAX_SAFE_INTEGER);
    }
    const blocked = { kind: 'blocked', payeeId: null, stems: ['STALL EXTRAS SALTMARSH'] } as const;
    await markHabit(await beginCommand(tx, services, booksId, actor), {
      ...blocked,
      stems: [...blocked.stems],
    });
  });
}

const NamedRow = z.object({ kind: z.string(), id: z.string(), name: z.string() });

async function idsOf(tx: Tx, booksId: string): Promise<Ids> {
  const rows = await rowsOf(
    tx,
    NamedRow,
    sql`select 'account' as kind, id, code as name from accounts where books_id = ${booksId}
        union all select 'bank', id, name from bank_accounts where books_id = ${booksId}
        union all select 'payee', id, name from payees where books_id = ${booksId}
        union all select 'tax', id, name from tax_codes where books_id = ${booksId}`,
  );
  const ids = new Map(rows.map(({ kind, id, name }) => [`${kind} ${name}`, id]));
  const wanted = (key: string): string => ids.get(key) ?? fail('INTERNAL');
  return {
    account: (codeOf) => wanted(`account ${codeOf}`),
    bank: (name) => wanted(`bank ${name}`),
    payee: (name) => ids.get(`payee ${name}`) ?? null,
    tax: (name) => ids.get(`tax ${name}`) ?? null,
  };
}
