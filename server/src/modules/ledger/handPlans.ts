import { randomUUID } from 'node:crypto';
import type { HandEntry } from '@zubrell/contract/ledger';
import { fail } from '@zubrell/core/errors';
import { withDifference } from '@zubrell/core/exchange/exchangedLegs';
import { inBooksCurrency } from '@zubrell/core/exchange/rate';
import type { BooksId, DecisionId, EntryId } from '@zubrell/core/ids';
import { buildLegs, type Leg } from '@zubrell/core/ledger/buildLegs';
import { type Coding, wholeLineCoding } from '@zubrell/core/ledger/coding';
import { handDirection } from '@zubrell/core/ledger/entries';
import { type HandSettlement, handSettlement } from '@zubrell/core/ledger/handSettlement';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import type { Tx } from '../../db/database.ts';
import { type BooksLookups, loadLookups } from '../books/lookups.ts';
import { loadMoney, type TakenIn } from '../books/money.ts';
import { needs, needsOfCodings } from '../books/needsOf.ts';
import {
  bankAccountOf,
  booksCurrency,
  capitalAccounts,
  controlAccounts,
} from '../books/queries.ts';
import { insertDecisions, type NewAllocation } from '../decisions/insertDecisions.ts';
import { offsetItem } from '../decisions/offsetItem.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import type { Need, StepItem } from '../steps/recordStep.ts';
import { type BooksCandidate, booksCandidates } from './candidates.ts';
import { insertEntries, type NewEntry } from './insertEntries.ts';
import { insertDocuments, type NewDocumentRow } from './setDocument.ts';
import { owedBy, worthOf } from './settledWorths.ts';

/** What is paid by or to somebody, on a bank account or privately. */
type PaidEntry = Exclude<HandEntry, { kind: 'transfer' | 'journal' }>;

/** Rows that one entry made by hand makes. */
export interface HandPlan {
  readonly entry: NewEntry;
  /** What it settles of documents, by a decision that no line belongs to. */
  readonly settled: {
    readonly decisionId: DecisionId;
    readonly documents: readonly BooksCandidate[];
    readonly allocations: readonly NewAllocation[];
    /** What is left over, as a document of its own. */
    readonly credit: NewDocumentRow | null;
  } | null;
}

/**
 * What was typed, as entries with their legs and what they settle.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, PERIOD_CLOSED, JOURNAL_UNBALANCED, SETTLE_NOTHING_LEFT, PAIR_TAKEN and
 * those of `handSettlement` and of a coding
 */
export async function handPlans(
  tx: Tx,
  booksId: BooksId,
  wanted: readonly HandEntry[],
): Promise<readonly HandPlan[]> {
  const banks = new Map<string, Awaited<ReturnType<typeof bankAccountOf>>>();
  const load = async (id: string) => {
    if (!banks.has(id)) banks.set(id, await bankAccountOf(tx, booksId, id));
  };
  for (const each of wanted) {
    if ('bankAccountId' in each) await load(each.bankAccountId);
    if (each.kind === 'transfer') await load(each.toBankAccountId);
  }
  const ledgerOf = (id: string) => banks.get(id)?.accountId ?? fail('BANK_ACCOUNT_UNKNOWN');
  const codings = wanted.map((each) => codingOf(each, ledgerOf));
  const lookups = await loadLookups(tx, booksId, codings);
  const currency = await booksCurrency(tx, booksId);
  const settle = await settler(tx, booksId, wanted);
  const capital = wanted.some(({ kind }) => kind === 'paidPrivately')
    ? await capitalAccounts(tx, booksId)
    : null;
  const bankOf = (each: HandEntry) =>
    'bankAccountId' in each ? (banks.get(each.bankAccountId) ?? null) : null;
  const currencyOf = (each: HandEntry) => bankOf(each)?.currency ?? currency;
  const dayOf = (each: HandEntry) => ({ currency: currencyOf(each), date: each.date });
  const money = await loadMoney(tx, booksId, wanted.map(dayOf));
  return wanted.map((each, at): HandPlan => {
    const coding = codings[at] ?? fail('ENTRY_NIL');
    const closed = bankOf(each)?.closed ?? null;
    if (closed !== null && each.date <= closed) fail('PERIOD_CLOSED', { date: each.date, closed });
    const id = randomUUID();
    const entryWith = ({ legs, exchange }: TakenIn): NewEntry => ({
      id,
      date: each.date,
      kind: each.kind,
      payeeId: each.kind === 'transfer' ? null : each.payeeId,
      note: each.note,
      number: each.kind === 'transfer' ? null : each.number,
      content: each,
      exchange,
      legs: legs.map((leg) => ({ ...leg, id: randomUUID() })),
    });
    if (each.kind === 'journal') {
      const legs = journalLegs(each, coding, lookups, currency);
      const other = legs.find(
        ({ accountId, role }) => role === 'bank' && money.currencyOf(accountId) !== currency,
      );
      if (other) fail('JOURNAL_CURRENCY', { name: lookups.accountName(other.accountId) });
      return { entry: entryWith({ legs, exchange: null }), settled: null };
    }
    const own: OwnSide =
      each.kind === 'paidPrivately'
        ? { accountId: capital?.(each.ownerId) ?? fail('OWNER_UNKNOWN'), role: 'base' }
        : { accountId: ledgerOf(each.bankAccountId), role: 'bank' };
    if (each.kind === 'transfer') {
      const legs = codedLegs({ money: -each.amount, date: each.date }, coding, lookups, own);
      return { entry: entryWith(money.takeIn(legs, dayOf(each), each.rate)), settled: null };
    }
    const paid = handDirection(each.kind) * each.amount;
    const settlement = settle(paid, each, currencyOf(each));
    const { legs: owed, rest } = settlement;
    if (rest === 0 && each.parts.length > 0) fail('SETTLE_NOTHING_LEFT');
    const coded =
      rest === 0 ? [] : codedLegs({ money: rest, date: each.date }, coding, lookups, own).slice(1);
    if (rest === 0) lookups.checkNames(coding);
    const first: Leg = { ...own, amount: paid, taxCodeId: null };
    const rate = each.kind === 'paidPrivately' ? null : each.rate;
    const taken = money.takeIn([first, ...owed, ...coded], dayOf(each), rate);
    if (owed.length === 0) return { entry: entryWith(taken), settled: null };
    const settled = settledOf(each, id, settlement, taken);
    if (taken.exchange === null) return { entry: entryWith(taken), settled };
    const { allocations, documents, credit } = settled;
    const worths = owedBy(allocations, documents, credit, settle.accounts);
    const legs = withDifference(taken.legs, worths, money.differenceAccount);
    return { entry: entryWith({ ...taken, legs }), settled };
  });

  function settledOf(
    { settles = [], date }: PaidEntry,
    entryId: EntryId,
    { credit }: HandSettlement,
    { exchange }: TakenIn,
  ): NonNullable<HandPlan['settled']> {
    const documents = settle.documents.filter(({ id }) =>
      settles.some(({ documentId }) => documentId === id),
    );
    return {
      decisionId: randomUUID(),
      documents,
      allocations: worthOf(settles, documents, exchange?.currency ?? currency, currency),
      credit: credit && {
        exchange,
        worth:
          exchange && inBooksCurrency(credit.amount, exchange.rate, exchange.currency, currency),
        ...credit,
        id: randomUUID(),
        kind: 'credit',
        number: null,
        date,
        dueDate: null,
        lines: [],
        note: null,
        entryId,
      },
    };
  }
}

/** Looks up the documents that entries settle, once for all. They are settled in the currency of the bank account. */
async function settler(tx: Tx, booksId: BooksId, wanted: readonly HandEntry[]) {
  const settling = wanted.filter(
    (each): each is PaidEntry =>
      each.kind !== 'journal' &&
      each.kind !== 'transfer' &&
      ((each.settles?.length ?? 0) > 0 || each.leavesCredit === true),
  );
  const ids = settling.flatMap(({ settles = [] }) => settles.map(({ documentId }) => documentId));
  if (new Set(ids).size < ids.length) fail('SETTLE_MORE');
  const documents =
    ids.length === 0
      ? []
      : (await booksCandidates(tx, booksId, { ids })).filter(
          ({ id, documentId }) => id === documentId,
        );
  const accounts =
    settling.length === 0 ? { receivables: '', payables: '' } : await controlAccounts(tx, booksId);
  const settle = (
    paid: number,
    { settles = [], payeeId, leavesCredit = false }: PaidEntry,
    currency: string,
  ) =>
    handSettlement(
      paid,
      settles.map(({ documentId, amount }) => {
        const document =
          documents.find(({ id }) => id === documentId) ??
          fail('PAIR_TAKEN', { what: 'One of the documents' });
        const { side, payeeId: whose, amount: open } = document;
        if (document.currency !== currency) {
          fail('SETTLE_CURRENCY', { what: candidateName(document), currency: document.currency });
        }
        return { documentId, side: side ?? 'payables', payeeId: whose, open, amount };
      }),
      { payeeId, leavesCredit },
      accounts,
    );
  return Object.assign(settle, { documents, accounts });
}

/** Writes entries made by hand, and what they settle. @returns what the step touched */
export async function insertHandPlans(
  command: BooksCommand,
  plans: readonly HandPlan[],
): Promise<StepItem[]> {
  await insertEntries(
    command,
    plans.map(({ entry }) => entry),
  );
  const settling = plans.flatMap(({ entry, settled }) => (settled ? [{ entry, ...settled }] : []));
  await insertDocuments(
    command,
    settling.flatMap(({ credit }) => credit ?? []),
  );
  await insertDecisions(
    command,
    settling.map(({ decisionId: id, allocations, entry: { legs } }) => ({
      id,
      kind: 'paired',
      allocations,
      legIds: legs.filter(({ role }) => role === 'control').map((leg) => leg.id),
    })),
  );
  return [
    ...plans.map(({ entry }) => entryItem(entry.id, true)),
    ...settling.map(({ decisionId }) => offsetItem(decisionId, true)),
  ];
}

/** Says that the entries came, and that the documents that they settle changed. */
export async function followPlans(
  command: BooksCommand,
  plans: readonly HandPlan[],
): Promise<void> {
  await command.follow.entriesChanged(
    command,
    plans.map(({ entry }) => entry.id),
  );
  const documents = plans.flatMap(({ settled }) => settled?.documents ?? []);
  if (documents.length > 0) await command.follow.documentsChanged(command, documents);
}

/** What has to be there for entries to hold. */
export function needsOfEntries(entries: readonly HandEntry[]): Need[] {
  return entries.flatMap((entry) => [
    ...needs('bankAccount', [
      'bankAccountId' in entry ? entry.bankAccountId : null,
      entry.kind === 'transfer' ? entry.toBankAccountId : null,
    ]),
    ...needs('payee', [
      entry.kind === 'paidPrivately' ? entry.ownerId : null,
      entry.kind === 'transfer' ? entry.clientId : null,
    ]),
    ...needs(
      'document',
      entry.kind === 'journal' || entry.kind === 'transfer'
        ? []
        : (entry.settles ?? []).map(({ documentId }) => documentId),
    ),
    // Of bank accounts only the bank account is named: nothing is looked up here.
    ...(entry.kind === 'transfer' ? [] : needsOfCodings([codingOf(entry, () => '')])),
  ]);
}

/** That an entry comes into force or is voided. */
export function entryItem(id: string, isInForce: boolean): StepItem {
  return {
    thing: 'entry',
    thingId: id,
    before: { isVoid: isInForce },
    after: { isVoid: !isInForce },
  };
}

function codingOf(entry: HandEntry, ledgerOf: (id: string) => string): Coding {
  switch (entry.kind) {
    case 'transfer': {
      const coding = wholeLineCoding(ledgerOf(entry.toBankAccountId), null, null, entry.note);
      const { clientId = null } = entry;
      return { ...coding, parts: coding.parts.map((part) => ({ ...part, clientId })) };
    }
    case 'journal':
      return {
        payeeId: entry.payeeId,
        note: entry.note,
        parts: entry.legs.map(({ accountId }) => ({
          accountId,
          taxCodeId: null,
          share: { kind: 'rest' },
          tax: null,
        })),
      };
    default:
      return { payeeId: entry.payeeId, parts: entry.parts, note: entry.note };
  }
}

/** Where the money comes from or goes to: a bank account, or what an owner put in. */
type OwnSide = Pick<Leg, 'accountId'> & { readonly role: 'bank' | 'base' };

/** The legs of money that is coded; the first one is on its own side. */
function codedLegs(
  { money, date }: { readonly money: number; readonly date: string },
  coding: Coding,
  lookups: BooksLookups,
  { accountId: ownId, role }: OwnSide,
): readonly Leg[] {
  if (coding.parts.some(({ accountId }) => accountId === ownId)) {
    fail('TRANSFER_SELF', { name: lookups.accountName(ownId) });
  }
  lookups.checkCoding(coding, ownId);
  const legs = buildLegs(money, ownId, coding, { ...lookups.on(date), role });
  const [bank] = coding.parts.filter(({ accountId }) => lookups.on(date).isBank(accountId));
  if (role === 'base' && bank) {
    fail('PRIVATE_BANK', { name: lookups.accountName(bank.accountId) });
  }
  return legs;
}

function journalLegs(
  entry: Extract<HandEntry, { kind: 'journal' }>,
  coding: Coding,
  lookups: BooksLookups,
  currency: string,
): readonly Leg[] {
  lookups.checkNames(coding);
  const sum = (sign: 1 | -1) =>
    entry.legs.reduce((total, { amount }) => total + Math.max(sign * amount, 0), 0);
  const [debits, credits] = [sum(1), sum(-1)];
  if (debits === 0) fail('ENTRY_NIL');
  if (debits !== credits) {
    fail('JOURNAL_UNBALANCED', {
      debits: formatAmount(debits, currency),
      credits: formatAmount(credits, currency),
    });
  }
  const { isBank } = lookups.on(entry.date);
  return entry.legs.map(({ accountId, amount }) => ({
    accountId,
    amount,
    taxCodeId: null,
    role: isBank(accountId) ? 'bank' : 'base',
  }));
}
