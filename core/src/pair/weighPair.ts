import { daysOf } from '../propose/habit/features.ts';
import { plainWording } from '../text/plainWording.ts';
import type { NamedPayee } from './namesIn.ts';
import { namesIn } from './namesIn.ts';
import {
  type Candidate,
  isDocument,
  type PairDifference,
  type PairLine,
  type PairReason,
} from './pairing.ts';

/** How likely a candidate is what a line is. */
export interface Weight {
  /** Log odds, given that the amounts agree, before others are looked at. */
  readonly odds: number;
  readonly reasons: readonly PairReason[];
  readonly differences: readonly PairDifference[];
}

/** A line with what was read out of its wording once. */
export interface ReadLine {
  readonly line: PairLine;
  readonly day: number;
  /** Numbers of three digits and more, without leading zeros, and marks with digits. */
  readonly numbers: ReadonlySet<string>;
  /** How much of each payee's name stands in it. */
  readonly names: ReadonlyMap<string, number>;
  /** How much of the name that stands in it best. */
  readonly bestName: number;
  /** Whether it says that a payment came back. */
  readonly isReturn: boolean;
}

/** Reads lines for {@link weighPair}. */
export function lineReader(payees: readonly NamedPayee[]): (line: PairLine) => ReadLine {
  const find = namesIn(payees);
  return (line) => {
    const names = find(line.text);
    return {
      line,
      day: daysOf(line.date),
      numbers: new Set(numbersIn(line.text)),
      names,
      bestName: Math.max(0, ...names.values()),
      isReturn: RETURNED.test(plainWording(line.text)),
    };
  };
}

/** What of a wording may be the number of a document. @example numbersIn('INV 01042 A-17') // ['1042', 'A17'] */
export function numbersIn(text: string): readonly string[] {
  const found: string[] = [];
  for (const token of plainWording(text.replace(/(?<=\p{L})[-/.](?=\d)/gu, '')).split(' ')) {
    if (!/\d/.test(token)) continue;
    const bare = plainNumber(token);
    if (bare.length >= 3) found.push(bare);
    const digits = token.replace(/\D+/g, '').replace(/^0+/, '');
    if (digits !== bare && digits.length >= 3) found.push(digits);
  }
  return found;
}

/** A document or cheque number as it is compared. @example plainNumber('INV-01042') // 'INV01042' */
export function plainNumber(number: string): string {
  return plainWording(number).replace(/ /g, '').replace(/^0+/, '');
}

/** A candidate with what is compared of it, read once. */
export interface ReadCandidate {
  readonly candidate: Candidate;
  readonly day: number;
  readonly dueDay: number | null;
  /** Its numbers and their digits, where they are long enough to be told from others. */
  readonly numbers: readonly string[];
}

/** Reads a candidate for {@link weighPair}. */
export function readCandidate(candidate: Candidate): ReadCandidate {
  const { date, dueDate, number, pays } = candidate;
  const plain = [...(number === null ? [] : [number]), ...pays].map(plainNumber);
  const digits = plain.map((each) => each.replace(/\D+/g, '').replace(/^0+/, ''));
  return {
    candidate,
    day: daysOf(date),
    dueDay: dueDate === null ? null : daysOf(dueDate),
    numbers: [...new Set([...plain, ...digits])].filter(({ length }) => length >= 3),
  };
}

/** Whether the wording of a line names a candidate's number, whole or its digits alone. */
export function namesNumber({ numbers }: ReadLine, candidate: ReadCandidate): boolean {
  return candidate.numbers.some((number) => numbers.has(number));
}

/** Amounts agree: the less round, the less likely by chance. */
const SAME_AMOUNT = [3.3, 2.6, 2.2, 1.9] as const;
/** No other line and no other candidate of these months has the amount. */
const ALONE = 0.8;
const NUMBER = 6;
const OTHER_CHEQUE = -9;
/** Nothing says that a payment came back. */
const NOT_RETURNED = -4;
const RETURNED =
  /\b(RETURN|RETURNED|UNPAID|BOUNCED|REJECTED|REVERSAL|REVERSED|CHARGEBACK|RUECKLASTSCHRIFT|RUCKLASTSCHRIFT|RETOURE|IMPAYE|REJET|DEVUELTO|STORNO)\b/;
/** A name that stands in the wording, in full. */
const NAME = 4;
/** The wording names somebody else, or somebody else better. */
const OTHER_NAME = -5;
/** Nobody that is known stands in the wording, and the candidate has a payee. */
const NO_NAME = -1.2;
/** From here on a date is worth a word. */
const FAR = -1.5;

/**
 * Weighs a candidate whose amount is a line's: by the days between, as they are usual for its kind, by the
 * payee's name and by a number in the wording.
 *
 * @param isAlone whether no other line and no other candidate of these months has the amount
 */
export function weighPair(read: ReadLine, other: ReadCandidate, isAlone: boolean): Weight {
  const { line } = read;
  const { candidate } = other;
  const reasons: PairReason[] = ['amount'];
  const differences: PairDifference[] = [];
  let odds = amountOdds(line.amount) + (isAlone ? ALONE : 0);

  const days = read.day - other.day;
  const due = other.dueDay === null ? null : read.day - other.dueDay;
  const dated = dateOdds(candidate, days, due);
  odds += dated;
  if (dated <= FAR) differences.push({ kind: 'date', days: due ?? days });
  else if (dated >= 0) reasons.push('date');

  if (candidate.kind === 'cheque' && line.chequeNumber !== null && candidate.number !== null) {
    const isSame = plainNumber(line.chequeNumber) === plainNumber(candidate.number);
    odds += isSame ? NUMBER : OTHER_CHEQUE;
    if (isSame) reasons.push('number');
    else differences.push({ kind: 'number' });
  } else if (namesNumber(read, other)) {
    odds += NUMBER;
    reasons.push('number');
  }

  if (!mayBe(read, candidate)) odds += NOT_RETURNED;

  const likeness = nameLikeness(read, candidate);
  if (likeness !== null) {
    odds += likeness;
    if (likeness > 1) reasons.push('payee');
    else if (likeness < 0) differences.push({ kind: 'payee' });
  }
  return { odds, reasons, differences };
}

/** So much of a name in a wording is a trace of it … */
const TRACE = 0.3;
/** … and so much is enough to look for all that is the payee's. */
const CLEAR = 0.6;

/** Whether a line has at least a trace of a payee or an own account: in its wording, or as look-alikes were theirs. */
export function isTracedTo({ names, line }: ReadLine, named: string | null): boolean {
  return named !== null && ((names.get(named) ?? 0) >= TRACE || line.usualPayeeId === named);
}

/** The payees that a line clearly names, and that of its look-alikes. */
export function payeesOf({ names, line }: ReadLine): ReadonlySet<string> {
  const named = [...names].filter(([, share]) => share >= CLEAR).map(([id]) => id);
  return new Set([...named, ...(line.usualPayeeId === null ? [] : [line.usualPayeeId])]);
}

/** A payment comes back only where something says so. */
export function mayBe({ isReturn }: ReadLine, { kind }: Candidate): boolean {
  return kind !== 'returned' || isReturn;
}

/** Log odds by the payee's name; null where neither side names anybody. */
function nameLikeness(read: ReadLine, { payeeId, kind }: Candidate): number | null {
  const { names, bestName, line } = read;
  if (payeeId === null) return kind === 'transfer' || bestName < 0.75 ? null : NO_NAME;
  const isUsual = line.usualPayeeId === payeeId;
  const own = Math.max(names.get(payeeId) ?? 0, isUsual ? 0.9 : 0);
  const best = Math.max(bestName, own);
  if (own >= 0.3) return NAME * own + OTHER_NAME * (best - own);
  if (best >= 0.75 || line.usualPayeeId !== null) return OTHER_NAME;
  // The wordings of cheques and of moves between own accounts seldom name anybody.
  return kind === 'cheque' || kind === 'transfer' ? null : NO_NAME;
}

/** Log odds that an amount is the same for a reason. */
function amountOdds(amount: number): number {
  if (amount % 100 !== 0) return SAME_AMOUNT[0];
  if (amount % 1_000 !== 0) return SAME_AMOUNT[1];
  return amount % 10_000 === 0 ? SAME_AMOUNT[3] : SAME_AMOUNT[2];
}

/**
 * Log odds by the days between, against any day of some months.
 *
 * @param days from the candidate's date to the line's
 * @param due from the due date to the line's, of documents
 */
function dateOdds(candidate: Candidate, days: number, due: number | null): number {
  if (isDocument(candidate)) {
    // Paid before it was written: a pro forma perhaps.
    if (days < 0) return -3 + days / 10;
    const late = due ?? days - 14;
    if (late < -40) return -0.5 + (late + 40) / 30;
    return late <= 7 ? 1.2 : 1.2 - (late - 7) / 14;
  }
  const { kind } = candidate;
  if (kind === 'cheque') {
    if (days < -2) return -3 + days / 5;
    return days <= 21 ? 1 : 1 - (days - 21) / 25;
  }
  if (days < 0) return kind === 'transfer' || days >= -2 ? 0.6 + days / 2 : days / 2;
  if (days <= 1) return 2;
  return days <= 5 ? 1.4 : 1.4 - (days - 5) / 4;
}
