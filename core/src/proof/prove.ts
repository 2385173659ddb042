import type { CalendarDate } from '../dates/calendarDate.ts';
import type { BankAccountId, EntryId, LineId } from '../ids.ts';
import type { Minor } from '../money/minor.ts';
import type { LikelyCause } from './explainBreak.ts';

/**
 * What can leave an amount unexplained: the balance that the bank states is not what opening and lines come to; what
 * lines were posted as or paired with does not come to the same; an entry was made from a line that is not there; a
 * journal on the bank account that no line of the bank is awaited for; a line dated before the opening balance is in
 * the books; or none of these.
 */
export const causeKinds = [
  'bankDiffers',
  'sidesDiffer',
  'lineGone',
  'notAwaited',
  'beforeOpening',
  'unknown',
] as const;
export type CauseKind = (typeof causeKinds)[number];

/** A part of what is unexplained, and why. */
export interface ProofCause {
  readonly kind: CauseKind;
  /** Its part of what is unexplained: what the books should say more. */
  readonly amount: Minor;
  readonly bankAccountId: BankAccountId;
  readonly date: CalendarDate;
  readonly lineId: LineId | null;
  readonly entryId: EntryId | null;
  /** The wording or note that it is known by. */
  readonly text: string | null;
  /** Where the bank's balances break: the last day on which they added up. */
  readonly since: CalendarDate | null;
  /** The line that most likely made the bank's balances break. */
  readonly likely: LikelyCause | null;
}

/** The sums that a proof of one bank account on one day is made of, booked amounts only. */
export interface ProofSums {
  readonly bankAccountId: BankAccountId;
  /** In which the terms are, ISO 4217. */
  readonly currency: string;
  readonly date: CalendarDate;
  /** The newest stated balance up to the day, and the lines after it up to the day; or null. */
  readonly stated: {
    readonly date: CalendarDate;
    readonly amount: Minor;
    readonly since: Minor;
    readonly sinceCount: number;
  } | null;
  /** Opening balance and all real lines up to the day. */
  readonly calculated: Minor;
  readonly open: Minor;
  readonly openCount: number;
  /** Excluded lines the bank really moved. */
  readonly keptOut: Minor;
  readonly keptOutCount: number;
  /** What may rightly wait for the bank; worked out from entries and pairings, never from the other terms. */
  readonly outstanding: Minor;
  readonly outstandingCount: number;
  /** The ledger account's balance, from its legs. */
  readonly books: Minor;
  /** Why the ledger differs, as far as entries and lines show it. */
  readonly causes: readonly ProofCause[];
}

/** The equation between bank and books, and what it leaves unexplained. */
export interface Proof
  extends Omit<ProofSums, 'stated' | 'calculated' | 'causes' | 'bankAccountId'> {
  readonly bank: Minor;
  /** Whether the bank itself states the balance; else it is calculated, not proved. */
  readonly isStated: boolean;
  /** The day of the newest stated balance; null where none was ever stated. */
  readonly statedDate: CalendarDate | null;
  /** How many bank accounts it is of, and for how many of them the bank states the balance. */
  readonly accountCount: number;
  readonly statedCount: number;
  /** How many bank accounts of other currencies the terms are without; what is unexplained there is among the causes. */
  readonly otherCount: number;
  readonly shouldSay: Minor;
  readonly unexplained: Minor;
  /** What is unexplained, part by part: the amounts add up to it. */
  readonly causes: readonly ProofCause[];
}

/**
 * Proves a bank account on a day:
 * bank − open − kept out but real + outstanding = what the books should say, against what they say.
 *
 * @example a bank of 100.00 with −20.00 open should stand at 120.00 in the books
 */
export function prove(sums: ProofSums): Proof {
  const { stated, calculated, bankAccountId, causes: known, ...terms } = sums;
  const bank = stated === null ? calculated : stated.amount + stated.since;
  const shouldSay = bank - terms.open - terms.keptOut + terms.outstanding;
  const unexplained = shouldSay - terms.books;
  const isStated = stated !== null && stated.sinceCount === 0;
  const nowhere = {
    bankAccountId,
    lineId: null,
    entryId: null,
    text: null,
    since: null,
    likely: null,
  };
  const causes: ProofCause[] = [...known];
  if (stated !== null && bank !== calculated) {
    const { date } = stated;
    causes.unshift({ ...nowhere, kind: 'bankDiffers', amount: bank - calculated, date });
  }
  const rest = unexplained - causes.reduce((sum, { amount }) => sum + amount, 0);
  if (rest !== 0) causes.push({ ...nowhere, kind: 'unknown', amount: rest, date: terms.date });
  return {
    ...terms,
    bank,
    isStated,
    statedDate: stated?.date ?? null,
    accountCount: 1,
    statedCount: isStated ? 1 : 0,
    otherCount: 0,
    shouldSay,
    unexplained,
    causes,
  };
}

/** Whether a proof leaves nothing to look for: the bank states the balance and nothing is unexplained. */
export function isProved({ isStated, causes }: Pick<Proof, 'isStated' | 'causes'>): boolean {
  return isStated && causes.length === 0;
}

/**
 * The sum of the proofs of several bank accounts; stated only if all are. Where they are in several currencies, the
 * terms are those of one, and the causes of all.
 *
 * @param own the currency whose accounts are summed, where there are any
 */
export function sumProofs(all: readonly Proof[], date: CalendarDate, own: string): Proof {
  const currency = all.some((proof) => proof.currency === own) ? own : (all[0]?.currency ?? own);
  const proofs = all.filter((proof) => proof.currency === currency);
  const total = (of: (proof: Proof) => number) => proofs.reduce((sum, each) => sum + of(each), 0);
  const days = proofs.flatMap(({ statedDate }) => statedDate ?? []).sort();
  return {
    date,
    currency,
    otherCount: all.length - proofs.length,
    bank: total((proof) => proof.bank),
    isStated: proofs.every((proof) => proof.isStated),
    statedDate: days[0] ?? null,
    accountCount: proofs.length,
    statedCount: total((proof) => proof.statedCount),
    open: total((proof) => proof.open),
    openCount: total((proof) => proof.openCount),
    keptOut: total((proof) => proof.keptOut),
    keptOutCount: total((proof) => proof.keptOutCount),
    outstanding: total((proof) => proof.outstanding),
    outstandingCount: total((proof) => proof.outstandingCount),
    shouldSay: total((proof) => proof.shouldSay),
    books: total((proof) => proof.books),
    unexplained: total((proof) => proof.unexplained),
    causes: all.flatMap(({ causes }) => causes),
  };
}
