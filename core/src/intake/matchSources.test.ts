import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../dates/calendarDate.ts';
import { matchSources, type SourceLine } from './matchSources.ts';
import { settleByBalance } from './settleByBalance.ts';

/** A payment as it happened, with the day on which the bank first reports it. */
interface Payment {
  readonly key: number;
  readonly date: string;
  readonly reported: string;
  readonly amount: number;
  readonly payee: string;
  readonly terminal: number;
}

type Rng = (below: number) => number;

function rngOf(seed: number): Rng {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fffffff;
    return Math.floor((state / 0x80000000) * below);
  };
}

const FIRST = '2026-01-01';
const PAYEES = Array.from({ length: 60 }, (_, index) => {
  const heads = ['TIDEMARK', 'COBBLE', 'BRINDLE', 'ORRIN', 'EMBER', 'NETTLE', 'QUILLON', 'DUNMERE'];
  const tails = [
    'FREIGHT',
    'CAFE',
    'FOODS',
    'MOBILE',
    'PARTS',
    'THREAD',
    'LETTINGS',
    'MUTUAL',
    'PRESS',
  ];
  return `${heads[index % 8]} ${tails[index % 9]} ${['NORTH', 'SOUTH', 'HARBOUR'][index % 3]}`;
});

/** Three months of payments, with repeats on one day and lines reported late. */
function payments(rng: Rng, perDay: number): Payment[] {
  const made: Payment[] = [];
  for (let day = 0; day < 90; day += 1) {
    const date = addDays(FIRST, day);
    for (let count = rng(perDay * 2); count > 0; count -= 1) {
      const payee = PAYEES[rng(PAYEES.length)] ?? '';
      const amount = rng(4) === 0 ? -480 : -(100 + rng(30_000));
      const late = rng(25) === 0 ? 1 + rng(4) : 0;
      const copies = rng(15) === 0 ? 2 : 1;
      for (let copy = 0; copy < copies; copy += 1) {
        made.push({
          key: made.length,
          date,
          reported: addDays(date, late),
          amount,
          payee,
          terminal: 10_000 + rng(80_000),
        });
      }
    }
  }
  return made;
}

/** How a source writes a payment. */
type Writer = (payment: Payment, rng: Rng, source: 'a' | 'b') => SourceLine;

const plain = (payment: Payment): SourceLine => ({
  date: payment.date,
  amount: payment.amount,
  description: `CRD PUR ${payment.payee} ${payment.terminal}`,
  reference: null,
  bankId: null,
  isPending: false,
});

const WRITERS: Readonly<Record<string, Writer>> = {
  'the same file again': plain,
  'ids that change': (payment, _rng, source) => ({
    ...plain(payment),
    bankId: `${source}${payment.key}`,
  }),
  'ids that stay and a wording cut': (payment, _rng, source) => ({
    ...plain(payment),
    bankId: String(payment.key),
    description: plain(payment).description.slice(0, source === 'a' ? 40 : 18),
  }),
  'another layout': (payment, _rng, source) =>
    source === 'a'
      ? plain(payment)
      : { ...plain(payment), description: `${payment.payee.toLowerCase()} / card payment` },
  'the wording cut and spaces lost': (payment, _rng, source) => ({
    ...plain(payment),
    description:
      source === 'a'
        ? plain(payment).description
        : plain(payment).description.replaceAll(' ', '').slice(0, 20),
  }),
  'value dates instead of booked ones': (payment, rng, source) => ({
    ...plain(payment),
    date: source === 'a' || rng(3) > 0 ? payment.date : addDays(payment.date, 1 + rng(2)),
  }),
};

/** What an export holds: the payments dated in its days and reported by its last one. */
function exported(all: readonly Payment[], from: string, to: string): Payment[] {
  return all.filter(({ date, reported }) => date >= from && date <= to && reported <= to);
}

interface Score {
  overlap: number;
  doubtful: number;
  wrongAlready: number;
  wrongNew: number;
}

/** Identical lines can't be told apart, so their numbers are compared, not which is which. */
function score(all: readonly Payment[], write: Writer, rng: Rng, cut: number, back: number): Score {
  const a = exported(all, FIRST, addDays(FIRST, cut));
  const b = exported(all, addDays(FIRST, cut - back), addDays(FIRST, 89));
  const known = new Set(a.map(({ key }) => key));
  const result = matchSources(
    a.map((payment) => write(payment, rng, 'a')),
    b.map((payment) => write(payment, rng, 'b')),
  );
  expect(result).toHaveLength(b.length);
  const groups = new Map<
    string,
    { resent: number; fresh: number; already: number; isNew: number }
  >();
  for (const [index, payment] of b.entries()) {
    // Under another date a repeat can't be told from its neighbour either.
    const date = write(payment, () => 0, 'b').date === payment.date ? payment.date : '';
    const key = `${date} ${payment.amount} ${payment.payee}`;
    const group = groups.get(key) ?? { resent: 0, fresh: 0, already: 0, isNew: 0 };
    if (known.has(payment.key)) group.resent += 1;
    else group.fresh += 1;
    if (result[index]?.kind === 'already') group.already += 1;
    if (result[index]?.kind === 'new') group.isNew += 1;
    groups.set(key, group);
  }
  const total: Score = {
    overlap: b.filter(({ key }) => known.has(key)).length,
    doubtful: result.filter(({ kind }) => kind === 'doubtful').length,
    wrongAlready: 0,
    wrongNew: 0,
  };
  for (const { resent, fresh, already, isNew } of groups.values()) {
    total.wrongAlready += Math.max(0, already - resent);
    total.wrongNew += Math.max(0, isNew - fresh);
  }
  return total;
}

describe('a stated balance', () => {
  const line = (amount: number, description: string): SourceLine => ({
    date: '2026-03-05',
    amount,
    description,
    reference: null,
    bankId: null,
    isPending: false,
  });
  const incoming = [line(-2900, 'ORRIN MOBILE'), line(-500, 'NEW')];
  const here = [{ ...line(-2900, 'ORRIN MOBILE'), date: '2026-03-03' }];
  const kinds = (closing: number) =>
    settleByBalance(matchSources(here, incoming), incoming, {
      standing: 10_000,
      closing,
      date: '2026-03-31',
    }).map(({ kind }) => kind);

  it('decides whether doubtful lines are real or copies, or leaves it open', () => {
    expect(matchSources(here, incoming).map(({ kind }) => kind)).toEqual(['doubtful', 'new']);
    expect(kinds(6_600)).toEqual(['new', 'new']);
    expect(kinds(9_500)).toEqual(['already', 'new']);
    expect(kinds(1)).toEqual(['doubtful', 'new']);
  });
});

describe('overlapping sources', () => {
  it.each(Object.entries(WRITERS))('are told apart with %s', (_name, write) => {
    const sum: Score = { overlap: 0, doubtful: 0, wrongAlready: 0, wrongNew: 0 };
    for (let seed = 1; seed <= 12; seed += 1) {
      const rng = rngOf(seed * 7_919);
      const one = score(payments(rng, 4 + rng(6)), write, rng, 50 + rng(20), 10 + rng(20));
      for (const key of Object.keys(sum) as (keyof Score)[]) sum[key] += one[key];
    }
    expect(sum.overlap).toBeGreaterThan(800);
    expect(sum).toMatchObject({ wrongAlready: 0, wrongNew: 0 });
    expect(sum.doubtful / sum.overlap).toBeLessThan(0.03);
  });

  it('know a pending line again when it is booked later with another amount', () => {
    const pending: SourceLine = {
      date: '2026-03-03',
      amount: -5000,
      description: 'STAGWELL FUEL 77120',
      reference: null,
      bankId: null,
      isPending: true,
    };
    const booked = { ...pending, date: '2026-03-05', amount: -5340, isPending: false };
    const other = { ...booked, description: 'COBBLE CAFE', amount: -480, date: '2026-03-01' };
    expect(matchSources([pending], [other, booked]).map(({ kind }) => kind)).toEqual([
      'new',
      'already',
    ]);
    expect(matchSources([{ ...pending, isPending: false }], [other, booked])).toEqual([
      { kind: 'new' },
      { kind: 'new' },
    ]);
  });

  it('keep lines apart that a bank which keeps its ids gives other ids', () => {
    const line = (bankId: string, day: string): SourceLine => ({
      date: day,
      amount: -480,
      description: 'COBBLE CAFE 2',
      reference: null,
      bankId,
      isPending: false,
    });
    const here = [line('1', '2026-03-13'), line('2', '2026-03-14')];
    const kinds = (incoming: readonly SourceLine[]) =>
      matchSources(here, incoming).map(({ kind }) => kind);
    expect(kinds([line('1', '2026-03-13'), line('3', '2026-03-14')])).toEqual(['already', 'new']);
    // With no id met again, two lines are too few to tell.
    expect(kinds([line('8', '2026-03-13'), line('9', '2026-03-14')])).toEqual([
      'doubtful',
      'doubtful',
    ]);
  });

  it('count genuine repeats on the day of the cut', () => {
    const coffee: SourceLine = {
      date: '2026-03-13',
      amount: -480,
      description: 'COBBLE CAFE 2',
      reference: null,
      bankId: null,
      isPending: false,
    };
    const kinds = matchSources([coffee], [coffee, { ...coffee, description: 'Cobble Café 3' }]);
    expect(kinds.map(({ kind }) => kind)).toEqual(['already', 'new']);
  });

  it('are all found when the same source comes again, whatever its order', () => {
    const lines = fc.array(
      fc.record({
        date: fc.constantFrom('2026-03-01', '2026-03-02'),
        amount: fc.integer({ min: -3, max: 3 }),
        description: fc.constantFrom('A', 'B'),
        reference: fc.constant(null),
        bankId: fc.option(fc.constantFrom('1', '2', '3')),
        isPending: fc.constant(false),
      }),
      { maxLength: 30 },
    );
    fc.assert(
      fc.property(lines, (source) => {
        const found = matchSources(source, [...source].reverse());
        expect(found.every(({ kind }) => kind === 'already')).toBe(true);
        const indexes = found.map((sighting) => (sighting.kind === 'new' ? -1 : sighting.index));
        expect(new Set(indexes)).toEqual(new Set(source.keys()));
      }),
    );
  });
});
