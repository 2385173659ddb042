import type { CalendarDate } from '../dates/calendarDate.ts';
import type { Minor } from '../money/minor.ts';

/** The sums that a proof of one bank account on one day is made of, booked amounts only. */
export interface ProofSums {
  readonly date: CalendarDate;
  /** The newest stated balance up to the day, and the lines after it up to the day; or null. */
  readonly stated: {
    readonly date: CalendarDate;
    readonly amount: Minor;
    readonly since: Minor;
  } | null;
  /** Opening balance and all real lines up to the day. */
  readonly calculated: Minor;
  readonly open: Minor;
  readonly openCount: number;
  /** Excluded lines the bank really moved. */
  readonly keptOut: Minor;
  readonly keptOutCount: number;
  /** Entries the bank has not reported yet. */
  readonly outstanding: Minor;
  readonly outstandingCount: number;
  readonly books: Minor;
}

/** The equation between bank and books, and what it leaves unexplained. */
export interface Proof extends Omit<ProofSums, 'stated' | 'calculated'> {
  readonly bank: Minor;
  /** Whether the bank itself states the balance; else it is calculated, not proved. */
  readonly isStated: boolean;
  readonly shouldSay: Minor;
  readonly unexplained: Minor;
}

/**
 * Proves a bank account on a day:
 * bank − open − kept out but real + outstanding = what the books should say, against what they say.
 *
 * @example a bank of 100.00 with −20.00 open should stand at 120.00 in the books
 */
export function prove(sums: ProofSums): Proof {
  const { stated, calculated, ...terms } = sums;
  const bank = stated === null ? calculated : stated.amount + stated.since;
  const shouldSay = bank - terms.open - terms.keptOut + terms.outstanding;
  return {
    ...terms,
    bank,
    isStated: stated !== null && (stated.since === 0 || stated.date >= terms.date),
    shouldSay,
    unexplained: shouldSay - terms.books,
  };
}

/** The sum of the proofs of several bank accounts of one currency; stated only if all are. */
export function sumProofs(proofs: readonly Proof[], date: CalendarDate): Proof {
  const total = (of: (proof: Proof) => Minor) => proofs.reduce((sum, each) => sum + of(each), 0);
  return {
    date,
    bank: total((proof) => proof.bank),
    isStated: proofs.every((proof) => proof.isStated),
    open: total((proof) => proof.open),
    openCount: total((proof) => proof.openCount),
    keptOut: total((proof) => proof.keptOut),
    keptOutCount: total((proof) => proof.keptOutCount),
    outstanding: total((proof) => proof.outstanding),
    outstandingCount: total((proof) => proof.outstandingCount),
    shouldSay: total((proof) => proof.shouldSay),
    books: total((proof) => proof.books),
    unexplained: total((proof) => proof.unexplained),
  };
}
