import { randomUUID } from 'node:crypto';
import { daysBetween } from '@zubrell/core/dates/calendarDate';
import { fail, ZubrellError } from '@zubrell/core/errors';
import type { Exchange, ExchangedLeg } from '@zubrell/core/exchange/exchangedLegs';
import { BANK_SHARE, isWithin } from '@zubrell/core/exchange/rate';
import type { BooksId, DecisionId, EntryId, LegId } from '@zubrell/core/ids';
import { buildLegs } from '@zubrell/core/ledger/buildLegs';
import type { Coding } from '@zubrell/core/ledger/coding';
import type { PostedWay } from '@zubrell/core/ledger/decisions';
import { HALF_DAYS } from '@zubrell/core/pair/findHalves';
import { type Proposal, proposedCoding, ruleGround, ruleOf } from '@zubrell/core/propose/proposal';
import { type Tx, together } from '../../db/database.ts';
import { type BooksLookups, loadLookups } from '../books/lookups.ts';
import { type BooksMoney, loadMoney } from '../books/money.ts';
import { insertDecisions } from '../decisions/insertDecisions.ts';
import { belowZero } from '../ledger/clientShares.ts';
import { insertEntries, type NewEntry } from '../ledger/insertEntries.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import type { StepItem } from '../steps/recordStep.ts';
import { bankFactsOf, type LeftOut, leftOutFor, type TargetLine } from './targetLines.ts';

/** Rows that one posted line makes. */
export interface Posting {
  readonly line: TargetLine;
  readonly coding: Coding;
  readonly entryId: EntryId;
  readonly decisionId: DecisionId;
  readonly legs: readonly (ExchangedLeg & { readonly id: string })[];
  readonly exchange: Exchange | null;
  /** The leg that the line is. */
  readonly legId: LegId;
  /** It is the other half of a move that another posting makes the entry of. */
  readonly isOtherHalf: boolean;
}

/** What posting a line with a coding makes. @throws {ZubrellError} where it can't be posted so */
export function postingOf(
  line: TargetLine,
  coding: Coding,
  lookups: BooksLookups,
  money: BooksMoney,
): Posting {
  const { ledgerAccountId } = line;
  if (coding.parts.some(({ accountId }) => accountId === ledgerAccountId)) {
    fail('TRANSFER_SELF', { name: lookups.accountName(ledgerAccountId) });
  }
  const built = buildLegs(line.amount, ledgerAccountId, coding, lookups.on(line.date));
  const { legs: taken, exchange } = money.takeIn(built, line, coding.rate ?? null);
  const legs = taken.map((leg) => ({ ...leg, id: randomUUID() }));
  return {
    line,
    coding,
    entryId: randomUUID(),
    decisionId: randomUUID(),
    legs,
    exchange,
    legId: legs[0]?.id ?? '',
    isOtherHalf: false,
  };
}

/**
 * Puts the two halves of a move together where both are posted at once, each to the account of the other: one
 * entry is made of them. In two currencies each half has the amount of its own line.
 */
export function joinHalves(postings: readonly Posting[]): readonly Posting[] {
  const waiting = new Map<string, Posting[]>();
  const joined = new Map<Posting, Posting>();
  const halves = postings.map((posting): Posting => {
    const { line } = posting;
    const there = thereOf(posting);
    if (!there) return posting;
    const near = waiting.get(`${there.accountId} ${line.ledgerAccountId}`) ?? [];
    const at = near.findIndex((other) => isHalf(other, posting));
    const [other] = at < 0 ? [] : near.splice(at, 1);
    if (!other) {
      const key = `${line.ledgerAccountId} ${there.accountId}`;
      waiting.set(key, [...(waiting.get(key) ?? []), posting]);
      return posting;
    }
    const whole = withOtherHalf(other, posting);
    joined.set(other, whole);
    const legId = thereOf(whole)?.id ?? '';
    return { ...posting, entryId: whole.entryId, legs: whole.legs, legId, isOtherHalf: true };
  });
  return halves.map((posting) => joined.get(posting) ?? posting);
}

/** The leg on the bank account that money moves to or comes from. */
function thereOf({ legs, legId }: Posting) {
  return legs.find(({ id, role }) => role === 'bank' && id !== legId);
}

/** Whether a line is the other half of a posting. */
function isHalf(first: Posting, { line }: Posting): boolean {
  const there = thereOf(first);
  if (!there || Math.abs(daysBetween(first.line.date, line.date)) > HALF_DAYS) return false;
  const said = there.original ?? there.amount;
  if (first.line.currency === line.currency) return said === line.amount;
  return isWithin(said, line.amount, BANK_SHARE);
}

/** A posting whose other leg has the amount of the line that it is. */
function withOtherHalf(first: Posting, { line, legs, exchange }: Posting): Posting {
  if (first.line.currency === line.currency) return first;
  // Where one half is in the books' currency, both are worth what that says.
  const isOwn = exchange === null;
  const worth = isOwn ? line.amount : -(first.legs[0]?.amount ?? 0);
  return {
    ...first,
    legs: first.legs.map((leg) => {
      if (leg.id === first.legId) return { ...leg, amount: -worth };
      return { ...leg, amount: worth, original: isOwn ? null : (legs[0]?.original ?? null) };
    }),
  };
}

/** What can be posted, and which lines can't be. */
interface Postings {
  readonly postings: readonly Posting[];
  readonly leftOut: readonly LeftOut[];
}

/**
 * What posting open lines makes, each with a coding of its own. Lines that can't be posted so, or that a client's
 * money doesn't cover, are left out and named.
 */
export async function coveredPostings(
  tx: Tx,
  booksId: BooksId,
  wanted: readonly { readonly line: TargetLine; readonly coding: Coding }[],
): Promise<Postings> {
  const { postings, leftOut } = await postingsOf(tx, booksId, wanted);
  const covered = await withoutOverdrawn(tx, booksId, postings);
  return { postings: covered.postings, leftOut: [...leftOut, ...covered.leftOut] };
}

/**
 * What posting lines makes, each with a coding of its own. Lines that can't be posted so are left out and
 * named.
 */
export async function postingsOf(
  tx: Tx,
  booksId: BooksId,
  wanted: readonly { readonly line: TargetLine; readonly coding: Coding }[],
): Promise<Postings & { readonly lookups: BooksLookups }> {
  const codings = new Map(wanted.map(({ coding }) => [JSON.stringify(coding), coding]));
  const [lookups, money] = await together(
    loadLookups(tx, booksId, [...codings.values()]),
    loadMoney(
      tx,
      booksId,
      wanted.map(({ line }) => line),
    ),
  );
  const leftOut: LeftOut[] = [];
  const postings = wanted.flatMap(({ line, coding }): Posting[] => {
    try {
      lookups.checkCoding(coding, line.ledgerAccountId);
      return [postingOf(line, coding, lookups, money)];
    } catch (error) {
      if (!(error instanceof ZubrellError)) throw error;
      leftOut.push(leftOutFor(line.id, error.code, error.params));
      return [];
    }
  });
  return { postings, leftOut, lookups };
}

/** Postings but for those that would leave a client's money below zero, which are named. */
export async function withoutOverdrawn(
  tx: Tx,
  booksId: BooksId,
  wanted: readonly Posting[],
): Promise<Postings> {
  const entries = new Map(
    joinHalves(wanted)
      .filter(({ isOtherHalf }) => !isOtherHalf)
      .map((posting) => [entryOf(posting), posting.line.id]),
  );
  const below = await belowZero(tx, booksId, [...entries.keys()]);
  if (below.size === 0) return { postings: wanted, leftOut: [] };
  const leftOut = [...below].map(([entry, params]) =>
    leftOutFor(entries.get(entry) ?? '', 'CLIENT_BELOW_ZERO', params),
  );
  const gone = new Set(leftOut.map(({ lineId }) => lineId));
  return { postings: wanted.filter(({ line }) => !gone.has(line.id)), leftOut };
}

/** The entry that a posting makes. */
function entryOf({ entryId, line, coding, legs, exchange }: Posting): NewEntry {
  return {
    id: entryId,
    date: line.date,
    kind: 'line',
    payeeId: coding.payeeId,
    note: coding.note,
    ...bankFactsOf(line),
    exchange,
    legs,
  };
}

/**
 * Writes entries, legs and decisions of postings.
 *
 * @param isOnce whether nothing is to be learned from it
 * @returns what the step touched
 */
export async function insertPostings(
  command: BooksCommand,
  way: PostedWay,
  wanted: readonly Posting[],
  isOnce = false,
): Promise<StepItem[]> {
  const postings = joinHalves(wanted);
  await insertEntries(command, postings.filter(({ isOtherHalf }) => !isOtherHalf).map(entryOf));
  return insertDecisions(
    command,
    postings.map(({ decisionId, line, coding, legId }) => {
      const proposal = line.proposal;
      const proposed = proposedCoding(proposal);
      return {
        id: decisionId,
        kind: 'posted',
        coding,
        proposedBy: proposal?.source ?? null,
        isKept: proposal !== null && proposed !== null && isKept(proposal, proposed, coding),
        odds: line.odds,
        isAccountKept:
          proposed !== null && proposed.parts[0]?.accountId === coding.parts[0]?.accountId,
        way,
        ruleId: ruleOf(proposal),
        isOnce,
        lineIds: [line.id],
        legIds: [legId],
      };
    }),
  );
}

/**
 * Whether a coding leaves a proposal as it was, but for the note. A rule states only some things: what it
 * leaves open can be filled in as one likes.
 */
function isKept(proposal: Proposal, proposed: Coding, coding: Coding): boolean {
  const leaves = ruleGround(proposal)?.leaves ?? [];
  const told = (each: Coding) => [
    leaves.includes('payee') ? null : each.payeeId,
    each.parts.map(({ accountId, taxCodeId, share, tax }) => [
      accountId,
      share,
      ...(leaves.includes('tax') ? [] : [taxCodeId, tax]),
    ]),
  ];
  return JSON.stringify(told(proposed)) === JSON.stringify(told(coding));
}
