import type { ChangeAccount, ChangePayee, MergePayee } from '@zubrell/contract/books';
import type { StepDone } from '@zubrell/contract/common';
import { fail } from '@zubrell/core/errors';
import { assignableRoles } from '@zubrell/core/ledger/starterBooks';
import { type SQL, sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { renewAll, renewSoon } from '../lines/proposals.ts';
import { recordStep, takeStepNumber } from '../steps/recordStep.ts';

/** What can change of a payee. */
interface PayeeState {
  readonly name: string;
  readonly kind: string;
  readonly isOn: boolean;
  readonly mergedInto: string | null;
}

/** What can change of an account. */
interface AccountState {
  readonly name: string;
  readonly purpose?: string;
  readonly role?: string | null;
  readonly isOn: boolean;
}

/** What is known of a payee. @throws {ZubrellError} PAYEE_UNKNOWN */
export async function payeeState(tx: Tx, booksId: string, id: string): Promise<PayeeState> {
  const [row] = await rowsOf<PayeeState>(
    tx,
    sql`select name, kind, is_on as "isOn", merged_into as "mergedInto" from payees
        where books_id = ${booksId} and id = ${id}`,
  );
  return row ?? fail('PAYEE_UNKNOWN');
}

/** Renames a payee, switches it off or on. @throws {ZubrellError} PAYEE_UNKNOWN, PAYEE_TAKEN */
export async function changePayee(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  payeeId: string,
  change: ChangePayee,
): Promise<StepDone> {
  const before = await payeeState(tx, booksId, payeeId);
  const after: PayeeState = {
    ...before,
    name: change.name ?? before.name,
    kind: change.kind ?? before.kind,
    isOn: change.isOn ?? before.isOn,
  };
  const [taken] = await rowsOf<{ name: string }>(
    tx,
    sql`select name from payees where books_id = ${booksId} and id <> ${payeeId}
          and lower(name) = lower(${after.name})`,
  );
  if (taken) fail('PAYEE_TAKEN', { name: taken.name });
  const words =
    before.name !== after.name
      ? `Renamed the payee ${before.name} to ${after.name}`
      : before.isOn !== after.isOn
        ? `Switched the payee ${after.name} ${after.isOn ? 'on' : 'off'}`
        : `Changed the payee ${after.name}`;
  const changes: Changed[] = [{ thing: 'payee', thingId: payeeId, before, after }];
  return put(tx, services, booksId, actor, 'changePayee', words, changes);
}

/**
 * Says that a payee is another one. What was posted shows the other from now on, and what is proposed
 * names it.
 *
 * @throws {ZubrellError} PAYEE_UNKNOWN, PAYEE_SAME
 */
export async function mergePayee(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  payeeId: string,
  { into }: MergePayee,
): Promise<StepDone> {
  const before = await payeeState(tx, booksId, payeeId);
  const other = await payeeState(tx, booksId, into);
  if (payeeId === into || other.mergedInto !== null) fail('PAYEE_SAME');
  const after: PayeeState = { ...before, isOn: false, mergedInto: into };
  const words = `Put the payee ${before.name} together with ${other.name}`;
  // Whoever turned out to be this one follows.
  const followers = await rowsOf<PayeeState & { id: string }>(
    tx,
    sql`select id, name, kind, is_on as "isOn", merged_into as "mergedInto" from payees
        where books_id = ${booksId} and merged_into = ${payeeId}`,
  );
  const changes = [
    { thing: 'payee' as const, thingId: payeeId, before, after },
    ...followers.map(({ id, ...state }) => ({
      thing: 'payee' as const,
      thingId: id,
      before: state,
      after: { ...state, mergedInto: into },
    })),
  ];
  return put(tx, services, booksId, actor, 'mergePayee', words, changes);
}

/**
 * Renames an account, says what it is for, switches it off or on.
 *
 * @throws {ZubrellError} ACCOUNT_UNKNOWN, ACCOUNT_ROLE_FIXED
 */
export async function changeAccount(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  accountId: string,
  change: ChangeAccount,
): Promise<StepDone> {
  const [before] = await rowsOf<Required<AccountState> & { code: string }>(
    tx,
    sql`select code, name, purpose, role, is_on as "isOn" from accounts
        where books_id = ${booksId} and id = ${accountId}`,
  );
  if (!before) fail('ACCOUNT_UNKNOWN');
  const { code, ...state } = before;
  const after: Required<AccountState> = {
    name: change.name ?? state.name,
    purpose: change.purpose ?? state.purpose,
    role: change.role === undefined ? state.role : change.role,
    isOn: change.isOn ?? state.isOn,
  };
  const words =
    state.name !== after.name
      ? `Renamed the account ${code} ${state.name} to ${after.name}`
      : state.isOn === after.isOn
        ? `Changed what the account ${code} ${after.name} is for`
        : `Switched the account ${code} ${after.name} ${after.isOn ? 'on' : 'off'}`;
  const isRoleFixed = state.role !== null && !assignableRoles.some((role) => role === state.role);
  if (isRoleFixed && after.role !== state.role) fail('ACCOUNT_ROLE_FIXED', { name: state.name });
  const changes: Changed[] = [{ thing: 'account', thingId: accountId, before: state, after }];
  if (after.role !== null && after.role !== state.role) {
    changes.unshift(...(await roleGivenUp(tx, booksId, after.role)));
  }
  return put(tx, services, booksId, actor, 'changeAccount', words, changes);
}

/** The account that had a role gives it up. */
async function roleGivenUp(tx: Tx, booksId: string, role: string): Promise<Changed[]> {
  const holders = await rowsOf<AccountState & { id: string }>(
    tx,
    sql`select id, name, purpose, role, is_on as "isOn" from accounts
        where books_id = ${booksId} and role = ${role}`,
  );
  return holders.map(({ id, ...before }) => ({
    thing: 'account',
    thingId: id,
    before,
    after: { ...before, role: null },
  }));
}

/** A payee or an account before and after a change. */
export type Changed =
  | {
      readonly thing: 'payee';
      readonly thingId: string;
      readonly before: PayeeState;
      readonly after: PayeeState;
    }
  | {
      readonly thing: 'account';
      readonly thingId: string;
      readonly before: AccountState;
      readonly after: AccountState;
    };

async function put(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  kind: string,
  words: string,
  changes: readonly Changed[],
): Promise<StepDone> {
  const step = await takeStepNumber(tx, booksId);
  for (const change of changes) await setThing(tx, booksId, change);
  await recordStep(tx, services, booksId, actor, step, { kind, words, items: changes });
  return { step, words };
}

/** Writes what a payee or an account changed to; where proposals depend on it, they are made anew. */
export async function setThing(
  tx: Tx,
  booksId: string,
  { thing, thingId, before, after }: Changed,
): Promise<void> {
  if (thing === 'payee') {
    await tx.execute(
      sql`update payees set name = ${after.name}, kind = ${after.kind}, is_on = ${after.isOn},
            merged_into = ${after.mergedInto}
          where books_id = ${booksId} and id = ${thingId}`,
    );
    if (before.mergedInto === after.mergedInto) return;
    await renewWhere(tx, booksId, sql`d.coding ->> 'payeeId' = ${thingId}`);
  } else {
    await tx.execute(
      // Steps taken before accounts had a purpose and a role that can change say nothing of them.
      sql`update accounts set name = ${after.name}, is_on = ${after.isOn},
            purpose = coalesce(${after.purpose ?? null}, purpose),
            role = ${after.role === undefined ? sql`role` : after.role}
          where books_id = ${booksId} and id = ${thingId}`,
    );
    if (before.role !== after.role) await renewAll(tx, booksId);
    if (before.isOn === after.isOn) return;
    await renewWhere(tx, booksId, sql`d.coding #>> '{parts,0,accountId}' = ${thingId}`);
  }
}

/** Proposes anew for the look-alikes of lines that were decided so. @param condition on decision `d` */
async function renewWhere(tx: Tx, booksId: string, condition: SQL): Promise<void> {
  const stems = await rowsOf<{ stem: string }>(
    tx,
    sql`select distinct l.stem from lines l
        join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
        join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        where l.books_id = ${booksId} and ${condition}`,
  );
  await renewSoon(
    tx,
    booksId,
    stems.map(({ stem }) => stem),
  );
}
