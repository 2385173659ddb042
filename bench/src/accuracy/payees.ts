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
  /** One of three bands of amounts. */
  | 'band'
  /** The first ten days of the month, or the last. */
  | 'monthDay'
  /** Who held the card. */
  | 'holder'
  /** A number, another one from a month on. */
  | 'renumbered'
  /** A word with money going out, another account for what comes in. */
  | 'wordAndDirection'
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
  /** One for each account, and those that take their place where numbers are renewed. */
  readonly words: readonly string[];
  readonly laterWords: readonly string[];
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
  /** How many come but once or twice a year. */
  readonly seldom: number;
  readonly months: number;
}

/** Makes the payees of a business. */
export function makePayees(throws: Dice, tongue: Tongue, mix: Mix): Payee[] {
  const payees: Payee[] = [];
  for (let at = 0; at < mix.payees; at += 1)
    payees.push(makePayee(throws, tongue, mix, { from: 0, others: payees }));
  for (let month = 1; month < mix.months; month += 1) {
    for (let at = 0; at < mix.fresh; at += 1) {
      payees.push(makePayee(throws, tongue, mix, { from: month, others: payees }));
    }
  }
  return payees;
}

function makePayee(
  throws: Dice,
  tongue: Tongue,
  mix: Mix,
  { from, others }: { readonly from: number; readonly others: readonly Payee[] },
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
  const most = MOST_ACCOUNTS[branching];
  const more = (isIn ? INCOMES : COSTS).map(String).filter((each) => !pair.includes(each));
  const accounts = most ? [...pair, ...more].slice(0, whole(Math.min(3, most[0]), most[1])) : pair;
  const label = pick(LABELS);
  const words: string[] = [];
  while (words.length < 2 * accounts.length) {
    const word = wordFor(throws, tongue, branching, label);
    if (!words.includes(word) && !name.includes(word)) words.push(word);
  }
  const least = Math.round(10 ** (2.6 + throws.next() * 2.2));
  const isFixed = chance(0.35);
  const rare = chance(0.35);
  const seldom = chance(mix.seldom);
  return {
    name,
    laterName: chance(0.05) ? `${madeWord(throws, tongue)} ${trade}`.toUpperCase() : null,
    accounts,
    tax: pick(TAXES),
    branching,
    words: words.slice(0, accounts.length),
    laterWords: words.slice(accounts.length),
    often: isParted(branching)
      ? 1.5 + throws.next() ** 2 * 9
      : seldom
        ? 0.12
        : rare
          ? 0.4
          : isFixed
            ? 1
            : 0.6 + throws.next() ** 3 * 9,
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

/** Whether a payee's lines go to several accounts all the time: then there are many. */
const isParted = (branching: Branching) => branching !== 'none' && branching !== 'moved';

/** How many accounts a payee has, where it can be other than two. */
const MOST_ACCOUNTS: Partial<Readonly<Record<Branching, readonly [least: number, most: number]>>> =
  {
    number: [2, 5],
    renumbered: [2, 4],
    holder: [2, 4],
    band: [3, 3],
    wordAndDirection: [3, 3],
  };

/** What numbers are said to be of. */
const LABELS = ['TID ', 'TERMINAL ', 'MERCHANT ', 'CUST', 'K-NR ', 'MANDATE ', 'JOB', 'SITE ', ''];

function wordFor(throws: Dice, tongue: Tongue, branching: Branching, label: string): string {
  switch (branching) {
    case 'number':
    case 'renumbered':
      return `${label}${throws.digits(throws.whole(4, 9))}`;
    case 'holder':
      return throws.pick([
        `${oneOf(throws, tongue.first)} ${madeWord(throws, tongue).toUpperCase()}`,
        `X${throws.digits(4)}`,
      ]);
    default:
      return oneOf(throws, tongue.trades).toUpperCase();
  }
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
  const { chance } = throws;
  const whole = Math.floor(payee.often);
  const count = whole + Number(chance(payee.often - whole));
  return Array.from({ length: count }, () => {
    const raised = month >= payee.changesIn ? payee.priceChange : 1;
    const branch = branchTaken(throws, payee);
    const spread = spreadOf(throws, payee, branch);
    const isRefund = !payee.isIn && chance(0.02);
    const isTurned =
      (payee.branching === 'direction' && branch === 1) ||
      (payee.branching === 'wordAndDirection' && branch === 2);
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
      word: wordOf(payee, taken, month),
    };
  });
}

/** To which of a payee's accounts a deal goes, where it is not the month that decides. */
function branchTaken({ whole, chance }: Dice, { branching, accounts }: Payee): number {
  return MOST_ACCOUNTS[branching] ? whole(0, accounts.length - 1) : Number(chance(0.35));
}

/** How large a deal is before prices rise. */
function spreadOf({ next }: Dice, { branching, price, isFixed }: Payee, branch: number): number {
  const [least, most] = price;
  switch (branching) {
    case 'amount':
      return branch === 0
        ? least + next() * (most - least) * 0.6
        : most * 1.6 + next() * (most * 3 - most * 1.6);
    case 'band':
      return least * 3 ** branch * (1 + next() * 0.8);
    default:
      return isFixed ? least : least + next() * (most - least);
  }
}

/** What stands in the wording and tells the account. */
function wordOf({ branching, words, laterWords, changesIn }: Payee, taken: number, month: number) {
  switch (branching) {
    case 'word':
    case 'number':
    case 'holder':
      return words[taken] ?? null;
    case 'renumbered':
      return (month < changesIn ? words : laterWords)[taken] ?? null;
    case 'wordAndDirection':
      return taken === 2 ? null : (words[taken] ?? null);
    default:
      return null;
  }
}

/** A round amount, or one just below. */
const centsOf = (size: number, isRound: boolean) =>
  Math.max(100, Math.round(size / 100) * 100) - (isRound ? 0 : 51);

/** A day of the month; where the day tells, an early or a late one, or Monday or Tuesday or another. */
function dayOf(throws: Dice, payee: Payee, month: number, branch: number): number {
  if (payee.branching === 'monthDay') {
    return branch === 0 ? throws.whole(1, 10) : throws.whole(19, 28);
  }
  if (payee.branching !== 'weekday') {
    return payee.channel === 'debit' ? payee.day : throws.whole(1, 28);
  }
  for (;;) {
    const day = throws.whole(1, 28);
    const weekday = new Date(Date.UTC(2025, month, day)).getUTCDay();
    if ((weekday === 1 || weekday === 2) === (branch === 1)) return day;
  }
}
