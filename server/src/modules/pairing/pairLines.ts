import type { LinesDone } from '@zubrell/contract/desk';
import type { DifferenceAnswer, PairLines } from '@zubrell/contract/pairing';
import { fail, ZubrellError } from '@zubrell/core/errors';
import { differenceLeg } from '@zubrell/core/exchange/exchangedLegs';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import { buildLegs } from '@zubrell/core/ledger/buildLegs';
import { wholeLineCoding } from '@zubrell/core/ledger/coding';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { sumOf } from '@zubrell/core/money/minor';
import { candidateName, candidateNames } from '@zubrell/core/pair/candidateNames';
import { isDocument } from '@zubrell/core/pair/pairing';
import type { SettledDifference } from '@zubrell/core/pair/settlePairing';
import { amountSaid, linesSaid, type Said, say } from '@zubrell/core/words/say';
import type { BooksTx, Tx } from '../../db/database.ts';
import { payeeState } from '../books/changeThings.ts';
import { clientMoneyOf } from '../books/clientMoney.ts';
import { loadLookups } from '../books/lookups.ts';
import { type BooksMoney, loadMoney } from '../books/money.ts';
import { bankAccountOf, booksCurrency, controlAccounts } from '../books/queries.ts';
import { correctDocument } from '../documents/changeDocument.ts';
import { type BooksCandidate, booksCandidates } from '../ledger/candidates.ts';
import { sharesOfEntries } from '../ledger/clientShares.ts';
import { correctEntry } from '../ledger/handEntries.ts';
import {
  daysOfPairing,
  inCurrencyOfLines,
  isByBanksRate,
  type PaidCandidate,
} from '../ledger/settledWorths.ts';
import { insertKeptOut } from '../lines/excludeLines.ts';
import {
  insertPairings,
  needsOfPlans,
  onlyPayee,
  type PairingPlan,
  pairingPlan,
} from '../lines/pairings.ts';
import { settleLines } from '../lines/postLines.ts';
import { leftOutFor, type TargetLine, targetLines, withoutTwice } from '../lines/targetLines.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';

/**
 * Pairs open lines of one bank account with what stands in the books, as one step: all of it or nothing. Without
 * anything to pair with, lines that cancel each other are held together as a bank's error and its correction.
 *
 * @throws {ZubrellError} PAIR_NOTHING, PAIR_TWO_ACCOUNTS, PAIR_OTHER_ACCOUNT, PAIR_TAKEN, PAIR_DIFFERENCE,
 * PAIR_CORRECT, and the errors of `settlePairing`
 */
export async function pairLines(
  command: BooksCommand,
  { lineIds, targetIds, difference, seenStep }: PairLines,
): Promise<LinesDone> {
  const { tx, booksId, step } = command;
  const currency = await booksCurrency(tx, booksId);
  const { lines, leftOut } = withoutTwice(
    await targetLines({ tx, booksId }, currency, { lineIds }, seenStep),
  );
  if (leftOut.length > 0) {
    return { step: null, words: 'Nothing paired', done: [], leftOut: [...leftOut] };
  }
  const bankAccountId = oneBankAccount(lines);
  if (targetIds.length === 0 && difference?.kind !== 'onAccount')
    return cancelLines(command, lines);
  const wanted = await wantedTargets(tx, booksId, targetIds, bankAccountId);
  const money = await loadMoney(tx, booksId, daysOfPairing(lines, wanted));
  const targets = paidBy(lines, wanted, money);
  const by = sumOf(lines) - sumOf(targets);
  const isRestated = by !== 0 && difference === null && isByBanksRate(targets, by);
  if (by !== 0 && difference === null && !isRestated) {
    fail('PAIR_DIFFERENCE', { by: formatAmount(by, lines[0]?.currency ?? currency) });
  }
  const corrected =
    difference?.kind === 'correct'
      ? await correct(command, targets, difference.targetId, by)
      : { targets, items: [] };
  const plan = pairingPlan(
    { lines, targets: corrected.targets },
    {
      difference: isRestated
        ? { kind: 'code', legs: [differenceLeg(money.differenceAccount(), -by)] }
        : await settled({ tx, booksId }, { lines, targets }, difference, by),
      isRestated,
      answer: difference,
    },
    await controlAccounts(tx, booksId),
    money,
  );
  const words =
    plan.credit !== null && targets.length === 0
      ? say`Kept ${amountSaid(Math.abs(by), currency)} as credit with ${(await payeeState(tx, booksId, plan.credit.payeeId)).name}`
      : pairedWords(lines.length, targets, difference);
  const items = await insertPairings(command, 'line', [plan]);
  await settleLines(command, lines, [...targetIds, ...plan.legIds]);
  await recordStep(command, {
    kind: 'pair',
    words,
    items: [...corrected.items, ...items],
    needs: needsOfPlans([plan]),
  });
  return { step, words: plainWords(words), done: lines.map(({ id }) => id), leftOut: [] };
}

/** What lines are paired with, in their currency. */
function paidBy(
  lines: readonly TargetLine[],
  targets: readonly BooksCandidate[],
  money: BooksMoney,
): readonly PaidCandidate[] {
  const last = lines.at(-1) ?? fail('LINE_UNKNOWN');
  return inCurrencyOfLines(targets, last, sumOf(lines), money);
}

function oneBankAccount(lines: readonly TargetLine[]): string {
  const [first = fail('LINE_UNKNOWN')] = lines;
  if (lines.some(({ bankAccountId }) => bankAccountId !== first.bankAccountId)) {
    fail('PAIR_TWO_ACCOUNTS');
  }
  return first.bankAccountId;
}

/** What is to be paired with, as it stands now. */
async function wantedTargets(
  tx: Tx,
  booksId: BooksId,
  ids: readonly string[],
  bankAccountId: BankAccountId,
): Promise<readonly BooksCandidate[]> {
  const known = await booksCandidates(tx, booksId, { ids });
  const targets = ids.map(
    (id) => known.find((each) => each.id === id) ?? fail('PAIR_TAKEN', { what: 'One of these' }),
  );
  const elsewhere = targets.find(
    (each) => each.bankAccountId !== null && each.bankAccountId !== bankAccountId,
  );
  if (elsewhere) {
    const { name: account } = await bankAccountOf(tx, booksId, elsewhere.bankAccountId ?? '');
    const { name: line } = await bankAccountOf(tx, booksId, bankAccountId);
    fail('PAIR_OTHER_ACCOUNT', { what: candidateName(elsewhere), account, line });
  }
  return targets;
}

/** Corrects one of the targets by the difference. */
async function correct(
  command: BooksCommand,
  targets: readonly PaidCandidate[],
  targetId: string,
  by: number,
): Promise<{ readonly targets: readonly PaidCandidate[]; readonly items: readonly StepItem[] }> {
  const wrong = targets.find(({ id }) => id === targetId) ?? fail('PAIR_CORRECT');
  if (wrong.inItsOwn !== undefined && wrong.inItsOwn !== wrong.amount) fail('PAIR_CORRECT');
  const amount = wrong.amount + by;
  if (Math.sign(amount) !== Math.sign(wrong.amount)) fail('PAIR_CORRECT');
  const { id, items } = isDocument(wrong)
    ? await correctDocument(command, wrong.id, by)
    : await correctEntry(command, wrong.entryId, by);
  const right = { ...wrong, id, amount };
  return { targets: targets.map((each) => (each === wrong ? right : each)), items };
}

/** A difference with the legs of what is coded. @throws {ZubrellError} PAIR_BANK and those of a coding */
async function settled(
  { tx, booksId }: BooksTx,
  { lines, targets }: Pick<PairingPlan, 'lines' | 'targets'>,
  difference: DifferenceAnswer | null,
  by: number,
): Promise<SettledDifference | null> {
  if (difference === null || difference.kind === 'correct') return null;
  if (difference.kind === 'onAccount') {
    return { kind: 'onAccount', payeeId: difference.payeeId ?? null };
  }
  if (difference.kind !== 'code') return difference;
  const { accountId, taxCodeId, reason } = difference;
  const coding = wholeLineCoding(accountId, onlyPayee(targets), taxCodeId, reason);
  const lookups = await loadLookups(tx, booksId, [coding]);
  lookups.checkCoding(coding);
  const last = lines.at(-1);
  const on = lookups.on(last?.date ?? '');
  if (on.isBank(accountId)) fail('PAIR_BANK', { name: lookups.accountName(accountId) });
  const legs = buildLegs(by, last?.ledgerAccountId ?? '', coding, on);
  return { kind: 'code', legs: legs.slice(1) };
}

/** Holds a bank's error and its correction together: both leave the open list, and neither is booked. */
async function cancelLines(
  command: BooksCommand,
  lines: readonly TargetLine[],
): Promise<LinesDone> {
  const { step } = command;
  if (lines.length < 2 || sumOf(lines) !== 0) fail('PAIR_NOTHING');
  const items = await insertKeptOut(command, [{ lines }], 'excluded', 'bankError');
  await settleLines(command, lines);
  const words = say`Matched ${linesSaid(lines.length)}: a bank error and its correction`;
  await recordStep(command, { kind: 'exclude', words, items });
  return { step, words: plainWords(words), done: lines.map(({ id }) => id), leftOut: [] };
}

/** @example 'Paired 1 line with Invoices 1039, 1042 of Nettle and Thread' */
export function pairedWords(
  count: number,
  targets: readonly BooksCandidate[],
  difference: DifferenceAnswer | null,
): Said {
  const payees = new Set(targets.map(({ payee }) => payee));
  const [payee] = payees.size === 1 ? payees : [];
  const of = payee ? say` of ${payee}` : '';
  const rest = difference === null ? '' : say`, ${DIFFERENCES[difference.kind]}`;
  return say`Paired ${linesSaid(count)} with ${candidateNames(targets)}${of}${rest}`;
}

const DIFFERENCES: Readonly<Record<DifferenceAnswer['kind'], string>> = {
  correct: 'which was corrected',
  partPaid: 'paid in part',
  onAccount: 'the rest left as credit',
  code: 'the rest coded',
};

const NO_DIFFERENCE = { difference: null };

/** What is paired as proposed: plans for lines, and those that can't be any more. */
export async function proposedPlans(
  tx: Tx,
  booksId: BooksId,
  lines: readonly TargetLine[],
): Promise<{
  readonly plans: readonly ReturnType<typeof pairingPlan>[];
  readonly leftOut: readonly ReturnType<typeof leftOutFor>[];
}> {
  const wanted = lines.flatMap((line) => {
    const proposal = line.proposal;
    return proposal?.kind === 'pair' ? [{ line, targets: proposal.targets ?? [] }] : [];
  });
  if (wanted.length === 0) return { plans: [], leftOut: [] };
  const ids = [...new Set(wanted.flatMap(({ targets }) => targets.map(({ id }) => id)))];
  const known = new Map(
    (await booksCandidates(tx, booksId, { ids })).map((each) => [each.id, each]),
  );
  const accounts = await controlAccounts(tx, booksId);
  const money = await loadMoney(
    tx,
    booksId,
    daysOfPairing(
      wanted.map(({ line }) => line),
      [...known.values()],
    ),
  );
  const leftOut: ReturnType<typeof leftOutFor>[] = [];
  const taken = new Set<string>();
  const plans = wanted.flatMap(({ line, targets }) => {
    const own = targets.flatMap(({ id }) => known.get(id) ?? []);
    try {
      if (own.length < targets.length || own.some(({ id }) => taken.has(id))) {
        fail('PAIR_TAKEN', { what: 'What it is' });
      }
      const paid = paidBy([line], own, money);
      const plan = pairingPlan({ lines: [line], targets: paid }, NO_DIFFERENCE, accounts, money);
      for (const { id } of own) taken.add(id);
      return [plan];
    } catch (error) {
      if (!(error instanceof ZubrellError)) throw error;
      leftOut.push(leftOutFor(line.id, error.code, error.params));
      return [];
    }
  });
  const named = await withoutUnnamed(tx, booksId, plans);
  return { plans: named.plans, leftOut: [...leftOut, ...named.leftOut] };
}

/** Plans but for those that don't say whose money moves where a bank account holds clients' money. */
async function withoutUnnamed(tx: Tx, booksId: BooksId, wanted: readonly PairingPlan[]) {
  const leftOut: ReturnType<typeof leftOutFor>[] = [];
  const { isUsed, holdsClients } = await clientMoneyOf(tx, booksId);
  if (!isUsed) return { plans: wanted, leftOut };
  const plans: PairingPlan[] = [];
  for (const plan of wanted) {
    try {
      const isHeld = plan.lines.some(({ ledgerAccountId }) => holdsClients(ledgerAccountId));
      if (isHeld) await sharesOfEntries(tx, booksId, plan.entries);
      plans.push(plan);
    } catch (error) {
      if (!(error instanceof ZubrellError)) throw error;
      for (const { id } of plan.lines) leftOut.push(leftOutFor(id, error.code, error.params));
    }
  }
  return { plans, leftOut };
}
