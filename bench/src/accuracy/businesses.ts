import { dice } from '@zubrell/core/testing/dice';
import { sized } from '../sized.ts';
import { TONGUES, type Tongue } from './names.ts';
import { type Branching, dealsOf, type Mix, makePayees } from './payees.ts';
import {
  type Bank,
  bare,
  changing,
  chatty,
  coded,
  formal,
  long,
  tagged,
  terse,
} from './wordings.ts';

/** A row as `zubrell evaluate` reads it, with what only the generator knows. */
export interface MadeRow {
  readonly date: string;
  /** In cents. */
  readonly amount: number;
  readonly description: string;
  readonly reference: string;
  readonly bankAccount: string;
  readonly account: string;
  readonly payee: string;
  readonly taxCode: string;
  readonly kind: string;
  /** Seen in an earlier month, and what the line shows decides the account. */
  readonly isKnowable: boolean;
  /** What tells the account. */
  readonly toldBy: string;
}

/** Whether a row counts where accuracy is measured: a miscoded one says nothing. */
export function isCounted({ kind }: Pick<MadeRow, 'kind'>): boolean {
  return kind === 'normal' || kind === 'refund' || kind === 'ambiguous';
}

/** A made-up business. */
export interface Business {
  readonly name: string;
  readonly tongue: Tongue;
  readonly bank: Bank;
  readonly mix: Mix;
  readonly seed: number;
  /** Not looked at while the engine was worked on. */
  readonly isKeptAside: boolean;
}

const usual: readonly (readonly [Branching, number])[] = [
  ['amount', 0.05],
  ['direction', 0.03],
  ['bank', 0.04],
  ['word', 0.06],
  ['nothing', 0.03],
  ['moved', 0.015],
];
const tricky: readonly (readonly [Branching, number])[] = [
  ['amount', 0.1],
  ['direction', 0.04],
  ['bank', 0.06],
  ['word', 0.1],
  ['nothing', 0.05],
  ['moved', 0.025],
];
const plain: readonly (readonly [Branching, number])[] = [
  ['amount', 0.03],
  ['word', 0.03],
  ['moved', 0.02],
  ['nothing', 0.02],
];

/** Numbers tell what a payee's line is for: terminals, contracts, sites. */
const numbered: readonly (readonly [Branching, number])[] = [
  ['number', 0.28],
  ['word', 0.06],
  ['amount', 0.05],
  ['bank', 0.03],
  ['moved', 0.015],
  ['nothing', 0.03],
];
/** All that can tell, a little of each. */
const various: readonly (readonly [Branching, number])[] = [
  ['number', 0.12],
  ['weekday', 0.06],
  ['cents', 0.06],
  ['word', 0.1],
  ['amount', 0.06],
  ['direction', 0.04],
  ['bank', 0.04],
  ['moved', 0.02],
  ['nothing', 0.04],
];

/** Who held the card, and numbers that are renewed. */
const held: readonly (readonly [Branching, number])[] = [
  ['holder', 0.16],
  ['renumbered', 0.1],
  ['amount', 0.06],
  ['wordAndDirection', 0.05],
  ['nothing', 0.05],
  ['moved', 0.02],
];
/** Days and bands of amounts. */
const dated: readonly (readonly [Branching, number])[] = [
  ['monthDay', 0.08],
  ['band', 0.1],
  ['weekday', 0.05],
  ['cents', 0.05],
  ['number', 0.05],
  ['moved', 0.025],
  ['nothing', 0.06],
];
/** Most payees have one account. */
const simple: readonly (readonly [Branching, number])[] = [
  ['word', 0.05],
  ['amount', 0.04],
  ['renumbered', 0.03],
  ['moved', 0.02],
  ['nothing', 0.05],
];

const { english, german, french, spanish, dutch, italian, portuguese, swedish, polish } = TONGUES;
const MONTHS = sized(14, 5);

function business(
  name: string,
  tongue: Tongue,
  bank: Bank,
  more: Pick<Mix, 'payees'> & Partial<Mix & Pick<Business, 'isKeptAside'>> & Pick<Business, 'seed'>,
): Business {
  const { isKeptAside = false, seed, payees, ...mix } = more;
  const usualMix = {
    payees: sized(payees, 12),
    fresh: 2,
    branchings: usual,
    sharing: 0.08,
    seldom: 0,
    months: MONTHS,
  };
  return { name, tongue, bank, mix: { ...usualMix, ...mix }, seed, isKeptAside };
}

/** The businesses that accuracy is measured on. */
export const businesses: readonly Business[] = [
  business('joinery', english, terse(32), { payees: 60, seed: 11 }),
  business('Gasthof', german, formal, { payees: 120, sharing: 0.12, seed: 12 }),
  business('librairie', french, changing(terse(24), formal, '2025-08-01'), {
    payees: 45,
    fresh: 1,
    seed: 13,
  }),
  business('taller', spanish, chatty, { payees: 90, branchings: tricky, seed: 14 }),
  business('kwekerij', dutch, terse(18), {
    payees: 70,
    branchings: plain,
    sharing: 0.15,
    seed: 15,
  }),
  business('wholesale', english, changing(chatty, terse(28), '2025-09-01'), {
    payees: 220,
    fresh: 5,
    seed: 16,
  }),
  business('bakery chain', english, terse(48), { payees: 60, branchings: numbered, seed: 21 }),
  business('Werkstatt', german, formal, {
    payees: 90,
    branchings: numbered,
    sharing: 0.12,
    seed: 22,
  }),
  business('clinique', french, chatty, { payees: 110, branchings: various, fresh: 3, seed: 23 }),
  business('escuela', spanish, formal, { payees: 50, branchings: various, seed: 24 }),
  business('boerderij', dutch, terse(40), { payees: 35, branchings: numbered, fresh: 1, seed: 25 }),
  business('agency', english, changing(chatty, terse(44), '2025-10-01'), {
    payees: 160,
    branchings: various,
    seed: 26,
  }),
  business('trattoria', italian, coded(10), {
    payees: 90,
    branchings: held,
    seldom: 0.2,
    seed: 31,
  }),
  business('quinta', portuguese, tagged, { payees: 70, branchings: dated, seldom: 0.2, seed: 32 }),
  business('snickeri', swedish, bare, {
    payees: 40,
    branchings: simple,
    seldom: 0.35,
    fresh: 3,
    seed: 33,
  }),
  business('przychodnia', polish, long, {
    payees: 120,
    branchings: various,
    seldom: 0.2,
    fresh: 3,
    seed: 34,
  }),
  business('haulage', english, long, {
    payees: 100,
    branchings: held,
    seldom: 0.1,
    sharing: 0.15,
    seed: 35,
  }),
  business('choir', english, coded(8), {
    payees: 45,
    branchings: simple,
    seldom: 0.4,
    fresh: 3,
    seed: 36,
  }),
  business('Kanzlei', german, tagged, {
    payees: 110,
    branchings: numbered,
    seldom: 0.3,
    fresh: 4,
    seed: 37,
  }),
  business('camping', french, changing(coded(14), tagged, '2025-07-01'), {
    payees: 130,
    branchings: dated,
    seldom: 0.25,
    fresh: 3,
    seed: 38,
  }),
  business('Praxis', german, changing(formal, terse(27), '2025-07-01'), {
    payees: 80,
    branchings: tricky,
    isKeptAside: true,
    seed: 17,
  }),
  business('marina', english, terse(22), { payees: 150, fresh: 3, isKeptAside: true, seed: 18 }),
];

/** All lines of a business, in the order of their dates. */
export function rowsOf({ tongue, bank, mix, seed }: Business, variant: number): MadeRow[] {
  const throws = dice(seed * 1_000 + variant * 77_777);
  const payees = makePayees(throws, tongue, mix);
  const seen = new Map<string, number>();
  const rows: MadeRow[] = [];
  for (let month = 0; month < mix.months; month += 1) {
    const [year, number] = [2025 + Math.floor(month / 12), (month % 12) + 1];
    const start = `${year}-${String(number).padStart(2, '0')}`;
    const deals = payees.flatMap((payee) => dealsOf(throws, payee, month));
    deals.sort((a, b) => a.day - b.day);
    for (const deal of deals) {
      const date = `${start}-${String(deal.day).padStart(2, '0')}`;
      const { payee } = deal;
      const name = month >= payee.changesIn && payee.laterName ? payee.laterName : payee.name;
      const { description, reference, cutName } = bank(throws, tongue, { deal, name, date });
      const text = `${description} ${reference}`.toUpperCase();
      const hidesWord = deal.word !== null && !text.includes(deal.word);
      const isLikeOthers =
        cutName !== null &&
        payees.some((other) => other !== payee && other.name.startsWith(cutName.trimEnd()));
      const isMiscoded = throws.chance(0.01);
      // A number that was not seen yet can't be known.
      const isOfNumber = payee.branching === 'number' || payee.branching === 'renumbered';
      const key = `${name}|${deal.account}|${isOfNumber ? deal.word : ''}`;
      const first = seen.get(key);
      rows.push({
        date,
        amount: deal.amount,
        description,
        reference,
        bankAccount: deal.bank,
        account: isMiscoded ? '6900' : deal.account,
        payee: name,
        taxCode: deal.tax,
        kind: isMiscoded ? 'miscoded' : deal.kind,
        toldBy: payee.branching,
        isKnowable:
          !isMiscoded &&
          !hidesWord &&
          !isLikeOthers &&
          deal.kind !== 'ambiguous' &&
          first !== undefined &&
          first < month,
      });
      if (first === undefined) seen.set(key, month);
    }
  }
  return rows;
}
