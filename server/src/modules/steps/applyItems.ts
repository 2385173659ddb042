import type { Account, BankAccount, CostObject, Payee } from '@zubrell/contract/books';
import { fail } from '@zubrell/core/errors';
import { DrizzleQueryError, sql } from 'drizzle-orm';
import pg from 'pg';
import { rowsOf, type Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { turnSettings } from '../books/changeBooks.ts';
import { type Changed, setThing } from '../books/changeThings.ts';
import { setOffsetLive } from '../documents/offsetDocuments.ts';
import { setDocument } from '../documents/setDocument.ts';
import { setMarkLive } from '../habits/markHabit.ts';
import { setBatchHere } from '../intake/setBatchHere.ts';
import { setAliasLive } from '../lines/aliases.ts';
import { codingToDraft } from '../lines/codingToDraft.ts';
import { setDismissalLive } from '../lines/dismissNudge.ts';
import { setLineHere } from '../lines/moveLines.ts';
import { renewSoon } from '../lines/proposals.ts';
import { setLineDecisions } from '../lines/setLineDecisions.ts';
import { renewForEntries } from '../pairing/renewNamed.ts';
import { stemsReached } from '../pairing/renewReached.ts';
import { setQuestionState } from '../questions/askLines.ts';
import { stopCorrected } from '../rules/postAtOnce.ts';
import { type RuleChange, setRules } from '../rules/setRules.ts';
import type { StepItem } from './recordStep.ts';

type Decided = { readonly decisionId: string | null };
type Voidable = { readonly isVoid: boolean };
type Twice = { readonly twiceOf: string | null };
type Standing = { readonly state: string };

/**
 * Moves the things of a step from `before` to `after`, if they still stand as `before` says.
 *
 * @param step the number of the step under way
 * @param names names the step the items are of, for errors
 * @throws {ZubrellError} STEP_TOUCHED, STEP_IN_USE; the transaction is to be rolled back then
 */
export async function applyItems(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  step: number,
  items: readonly StepItem[],
  names: () => string,
): Promise<void> {
  const touched = (): never => fail('STEP_TOUCHED', { steps: names() });
  const lines = items.filter((item) => item.thing === 'line');
  if (lines.length > 0) {
    const moved = await setLineDecisions(
      tx,
      booksId,
      lines.map((item) => ({
        lineId: item.thingId,
        from: (item.before as Decided).decisionId,
        to: (item.after as Decided).decisionId,
      })),
      step,
    );
    if (moved.length > 0) touched();
    await stopCorrected(
      tx,
      booksId,
      step,
      lines.flatMap((item) => (item.before as Decided).decisionId ?? []),
    );
    await settleTurned(tx, services, booksId, actor, lines, tiedTo(items));
  }
  const rules = items.filter((item): item is RuleChange => item.thing === 'rule');
  if (rules.length > 0 && (await setRules(tx, booksId, step, rules)) === null) touched();
  for (const item of items) {
    switch (item.thing) {
      case 'line':
        break;
      case 'twice':
        if (!(await setTwice(tx, booksId, item, step))) touched();
        break;
      case 'asked':
      case 'tied':
      case 'rule':
        break;
      case 'offset': {
        const { isLive } = item.after as { readonly isLive: boolean };
        if (!(await setOffsetLive(tx, booksId, item.thingId, isLive))) touched();
        break;
      }
      case 'document':
        if (!(await setDocument(tx, booksId, step, item))) touched();
        break;
      case 'lineHere': {
        const { isHere } = item.after as { readonly isHere: boolean };
        if (!(await setLineHere(tx, booksId, item.thingId, isHere, step))) touched();
        break;
      }
      case 'alias': {
        const { isLive } = item.after as { readonly isLive: boolean };
        if (!(await setAliasLive(tx, booksId, item.thingId, isLive, step))) touched();
        break;
      }
      case 'habitMark': {
        const { isLive } = item.after as { readonly isLive: boolean };
        if (!(await setMarkLive(tx, booksId, item.thingId, isLive, step))) touched();
        break;
      }
      case 'dismissal': {
        const { isLive } = item.after as { readonly isLive: boolean };
        if (!(await setDismissalLive(tx, booksId, item.thingId, isLive))) touched();
        break;
      }
      case 'question': {
        const [from, to] = [item.before as Standing, item.after as Standing];
        if (!(await setQuestionState(tx, booksId, item.thingId, from.state, to.state, step)))
          touched();
        break;
      }
      case 'entry':
        if (!(await setVoid(tx, booksId, item))) touched();
        break;
      case 'batch':
        if (!(await setBatchHere(tx, booksId, item.thingId, item.after !== null, step))) touched();
        break;
      case 'books':
        if (!(await turnSettings(tx, booksId, item.before ?? {}, item.after ?? {}))) touched();
        break;
      case 'account':
      case 'payee':
      case 'costObject':
      case 'bankAccount':
        await setMade(tx, booksId, item);
        break;
    }
  }
  const entryIds = items.filter(({ thing }) => thing === 'entry').map(({ thingId }) => thingId);
  await renewForEntries(tx, booksId, entryIds);
}

/** Lines given back get their coding as a draft; lines decided again lose it. */
async function settleTurned(
  tx: Tx,
  { clock }: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  lines: readonly StepItem[],
  targetIds: readonly string[],
): Promise<void> {
  const ids = sql.param(lines.map((item) => item.thingId));
  const decided = lines.filter((item) => (item.after as Decided).decisionId !== null);
  await tx.execute(
    sql`delete from drafts where books_id = ${booksId}
        and line_id = any(${sql.param(decided.map((item) => item.thingId))}::uuid[])`,
  );
  const left = lines.flatMap((item) => (item.before as Decided).decisionId ?? []);
  await codingToDraft(tx, booksId, left, actor.userId, clock.now());
  const turned = await rowsOf<{ stem: string; amount: number }>(
    tx,
    sql`select distinct stem, amount from lines where books_id = ${booksId} and id = any(${ids}::uuid[])`,
  );
  const amounts = turned.map(({ amount }) => amount);
  await renewSoon(tx, booksId, [
    ...turned.map(({ stem }) => stem),
    ...(await stemsReached(tx, booksId, amounts, targetIds)),
  ]);
}

/** What lines of these items were paired with. */
function tiedTo(items: readonly StepItem[]): readonly string[] {
  return items.filter(({ thing }) => thing === 'tied').map(({ thingId }) => thingId);
}

async function setVoid(tx: Tx, booksId: string, item: StepItem): Promise<boolean> {
  const { isVoid } = item.after as Voidable;
  const rows = await rowsOf(
    tx,
    sql`update entries set is_void = ${isVoid}
        where books_id = ${booksId} and id = ${item.thingId}
          and is_void = ${(item.before as Voidable).isVoid}
        returning id`,
  );
  return rows.length === 1;
}

async function setTwice(tx: Tx, booksId: string, item: StepItem, step: number): Promise<boolean> {
  const rows = await rowsOf(
    tx,
    sql`update lines set twice_of = ${(item.after as Twice).twiceOf}, last_step = ${step}
        where books_id = ${booksId} and id = ${item.thingId}
          and twice_of is not distinct from ${(item.before as Twice).twiceOf}::uuid
        returning id`,
  );
  return rows.length === 1;
}

const TABLES = {
  account: 'accounts',
  payee: 'payees',
  costObject: 'cost_objects',
  bankAccount: 'bank_accounts',
} as const;

/** Takes away what a step made, makes it again with the same id, or changes it back. */
async function setMade(tx: Tx, booksId: string, item: StepItem): Promise<void> {
  if (item.before !== null && item.after !== null && item.thing !== 'bankAccount') {
    await setThing(tx, booksId, item as Changed);
    return;
  }
  if (item.after !== null) {
    await insertAgain(tx, booksId, item);
    return;
  }
  const table = TABLES[item.thing as keyof typeof TABLES];
  try {
    await tx.execute(
      sql`delete from ${sql.identifier(table)} where books_id = ${booksId} and id = ${item.thingId}`,
    );
  } catch (error) {
    const cause = error instanceof DrizzleQueryError ? error.cause : error;
    const foreignKeyViolation = '23503';
    if (!(cause instanceof pg.DatabaseError) || cause.code !== foreignKeyViolation) throw error;
    fail('STEP_IN_USE', { name: (item.before as { name?: string }).name ?? '' });
  }
}

async function insertAgain(tx: Tx, booksId: string, item: StepItem): Promise<void> {
  if (item.thing === 'payee') {
    const payee = item.after as Payee;
    await tx.execute(
      sql`insert into payees (books_id, id, name, kind)
          values (${booksId}, ${payee.id}, ${payee.name}, ${payee.kind})`,
    );
  } else if (item.thing === 'costObject') {
    const made = item.after as CostObject;
    await tx.execute(
      sql`insert into cost_objects (books_id, id, kind, name)
          values (${booksId}, ${made.id}, ${made.kind}, ${made.name})`,
    );
  } else if (item.thing === 'account') {
    const account = item.after as Account;
    await tx.execute(
      sql`insert into accounts (books_id, id, code, name, type, parent_id)
          values (${booksId}, ${account.id}, ${account.code}, ${account.name}, ${account.type},
            ${account.parentId})`,
    );
  } else {
    const made = item.after as BankAccount;
    await tx.execute(
      sql`insert into bank_accounts (books_id, id, name, kind, bank, number, account_id)
          values (${booksId}, ${made.id}, ${made.name}, ${made.kind}, ${made.bank},
            ${made.number}, ${made.accountId})`,
    );
  }
}
