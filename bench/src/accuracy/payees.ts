import type { Dice } from '@zubrell/core/testing/dice';
import { madeWord, oneOf, type Tongue } from './names.ts';

/** A line as it really is, before a bank words it. */
export interface Deal {
  readonly payee: Payee;
  /** In positive, out negative, in cents. */
  readonly amount: number;
  readonly bank: string;
  readonly day: number;
  readonly account: string;
  readonly tax: string;
  readonly kind: 'normal' | 'refund' | 'ambiguous';
  /** A word, or a number with what it is of, that stands in the wording and tells the account. */
  readonly word: string | null;
}

/** What decides to which of its accounts a payee's line goes. */
export type Branching =
  | 'none'
  | 'amount'
  | 'direction'
  | 'bank'
  | 'word'
  | 'number'
  | 'weekday'
  | 'cents'
  | 'nothing'
  | 'moved';

/** Somebody who is paid or pays. */
export interface Payee {
  readonly name: string;
  /** Another name from a month on. */
  readonly laterName: string | null;
  /** Two, but of what a number tells up to five. */
  readonly accounts: readonly string[];
  readonly tax: string;
  readonly branching: Branching;
  /** One for each account. */
  readonly words: readonly string[];
  /** Lines a month on average. */
  readonly often: number;
  readonly isIn: boolean;
  /** How the amounts are: always one price, or between two. */
  readonly price: readonly [least: number, most: number];
  readonly isFixed: boolean;
  readonly priceChange: number;
  readonly bank: string;
  readonly channel: 'card' | 'debit' | 'transfer';
  readonly contract: string;
  readonly town: string;
  readonly isPerson: boolean;
  /** The first month in which it comes, 0 from the start. */
  readonly from: number;
  readonly changesIn: number;
  readonly day: number;
}

const COSTS = [
  5010, 5020, 5030, 6010, 6020, 6030, 6040, 6050, 6060, 6070, 6080, 6090, 6110, 6120, 6130,
];
const INCOMES = [4010, 4020, 4030, 4040, 4090];
const OTHERS = [1500, 2300, 2400, 3020, 1090];
const TAXES = ['20 %', '20 %', '20 %', '5 %', '0 %', 'Exempt', 'Outside'];
const BANKS = ['current', 'card', 'savings'];

/** How a business differs from others. */
export interface Mix {
  readonly payees: number;
  /** How many new ones come each month. */
  readonly fresh: number;
  /** Shares of branchings among payees, the rest has none. */
  readonly branchings: readonly (readonly [Branching, number])[];
  /** How many payees share their first words with another. */
  readonly sharing: number;
  readonly months: number;
}

/** Makes the payees of a business. */
export function makePayees(throws: Dice, tongue: Tongue, mix: Mix): Payee[] {
  const payees: Payee[] = [];
  for (let at = 0; at < mix.payees; at += 1) payees.push(makePayee(throws, tongue, mix, 0, payees));
  for (let month = 1; month < mix.months; month += 1) {
    for (let at = 0; at < mix.fresh; at += 1) {
      payees.push(makePayee(throws, tongue, mix, month, payees));
    }
  }
  return payees;
}

function makePayee(
  throws: Dice,
  tongue: Tongue,
  mix: Mix,
  from: number,
  others: readonly Payee[],
): Payee {
  const { chance, pick, whole, digits } = throws;
  const isPerson = chance(0.18);
  const twin = others.length > 3 && chance(mix.sharing) ? pick(others) : null;
  const trade = oneOf(throws, tongue.trades);
  const word = madeWord(throws, tongue);
  const company = `${word} ${trade}${chance(0.4) ? ` ${oneOf(throws, tongue.forms)}` : ''}`;
  const shared = twin ? `${twin.name.split(' ')[0]} ${trade} ${word}` : null;
  const person = `${oneOf(throws, tongue.first)} ${madeWord(throws, tongue)}`;
  const name = (shared ?? (isPerson ? person : company)).toUpperCase();
  const isIn = chance(0.22);
  const own = pick(isIn ? INCOMES : chance(0.1) ? OTHERS : COSTS);
  const other = pick(isIn ? INCOMES : chance(0.2) ? OTHERS : COSTS);
  const branching = branchingOf(throws, mix, own === other);
  const pair = [String(own), String(own === other ? own + 5 : other)];
  const accounts =
    branching === 'number'
      ? [
          ...pair,
          ...(isIn ? INCOMES : COSTS).map(String).filter((each) => !pair.includes(each)),
        ].slice(0, whole(2, 5))
      : pair;
  const label = pick(LABELS);
  const least = Math.round(10 ** (2.6 + throws.next() * 2.2));
  const isFixed = chance(0.35);
  const rare = chance(0.35);
  return {
    name,
    laterName: chance(0.05) ? `${madeWord(throws, tongue)} ${trade}`.toUpperCase() : null,
    accounts,
    tax: pick(TAXES),
    branching,
    words: accounts.map(() => wordFor(throws, tongue, branching, label)),
    often: rare ? 0.4 : isFixed ? 1 : 0.6 + throws.next() ** 3 * 9,
    isIn,
    price: [least, isFixed ? least : Math.round(least * (1.3 + throws.next() * 4))],
    isFixed,
    priceChange: chance(0.25) ? 1 + throws.next() * 0.15 : 1,
    bank: isIn ? 'current' : pick(['current', 'current', 'card', 'card', 'savings']),
    channel: isIn ? 'transfer' : pick(['card', 'card', 'debit', 'transfer']),
    contract: digits(whole(6, 10)),
    town: oneOf(throws, tongue.towns),
    isPerson: isPerson && shared === null,
    from,
    changesIn: whole(3, Math.max(4, mix.months - 3)),
    day: whole(1, 28),
  };
}

/** What numbers are said to be of. */
const LABELS = ['TID ', 'TERMINAL ', 'MERCHANT ', 'CUST', 'K-NR ', 'MANDATE ', 'JOB', 'SITE ', ''];

function wordFor(throws: Dice, tongue: Tongue, branching: Branching, label: string): string {
  if (branching !== 'number') return oneOf(throws, tongue.trades).toUpperCase();
  return `${label}${throws.digits(throws.whole(4, 9))}`;
}

function branchingOf({ next }: Dice, { branchings }: Mix, isSame: boolean): Branching {
  if (isSame) return 'none';
  let thrown = next();
  for (const [branching, share] of branchings) {
    if (thrown < share) return branching;
    thrown -= share;
  }
  return 'none';
}

/** What a payee's business comes to in a month. */
export function dealsOf(throws: Dice, payee: Payee, month: number): Deal[] {
  if (month < payee.from) return [];
  const { chance, next } = throws;
  const whole = Math.floor(payee.often);
  const count = whole + Number(chance(payee.often - whole));
  return Array.from({ length: count }, () => {
    const [least, most] = payee.price;
    const raised = month >= payee.changesIn ? payee.priceChange : 1;
    const branch =
      payee.branching === 'number'
        ? throws.whole(0, payee.accounts.length - 1)
        : Number(chance(0.35));
    const [small, large] = [least, payee.branching === 'amount' ? most * 3 : most];
    const spread =
      payee.branching === 'amount'
        ? branch === 0
          ? small + next() * (most - small) * 0.6
          : most * 1.6 + next() * (large - most * 1.6)
        : payee.isFixed
          ? least
          : least + next() * (most - least);
    const isRefund = !payee.isIn && chance(0.02);
    const isTurned = payee.branching === 'direction' && branch === 1;
    const side = payee.isIn === isTurned ? -1 : 1;
    const taken =
      payee.branching === 'moved'
        ? Number(month >= payee.changesIn)
        : payee.branching === 'none'
          ? 0
          : branch;
    const size = Math.round(spread * raised);
    return {
      payee,
      amount:
        (payee.branching === 'cents' ? centsOf(size, branch === 1) : size) *
        (isRefund ? -side : side),
      bank: payee.branching === 'bank' ? (BANKS[branch] ?? 'current') : payee.bank,
      day: dayOf(throws, payee, month, branch),
      account: payee.accounts[isRefund && payee.branching === 'direction' ? 0 : taken] ?? '',
      tax: payee.tax,
      kind: isRefund ? 'refund' : payee.branching === 'nothing' ? 'ambiguous' : 'normal',
      word:
        payee.branching === 'word' || payee.branching === 'number'
          ? (payee.words[taken] ?? null)
          : null,
    };
  });
}

/** A round amount, or one just below. */
const centsOf = (size: number, isRound: boolean) =>
  Math.max(100, Math.round(size / 100) * 100) - (isRound ? 0 : 51);

/** A day of the month; where the day of the week tells, Monday or Tuesday, or another. */
function dayOf(throws: Dice, payee: Payee, month: number, branch: number): number {
  if (payee.branching !== 'weekday') {
    return payee.channel === 'debit' ? payee.day : throws.whole(1, 28);
  }
  for (;;) {
    const day = throws.whole(1, 28);
    const weekday = new Date(Date.UTC(2025, month, day)).getUTCDay();
    if ((weekday === 1 || weekday === 2) === (branch === 1)) return day;
  }
}
