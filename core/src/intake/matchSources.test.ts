import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../dates/calendarDate.ts';
import { type Dice, dice } from '../testing/dice.ts';
import { matchSources, type SourceLine } from './matchSources.ts';
import { balanceVerdict, settleByBalance } from './settleByBalance.ts';

/** A payment as it happened, with the day on which the bank first reports it. */
interface Payment {
  readonly key: number;
  readonly date: string;
  readonly reported: string;
  readonly amount: number;
  readonly payee: string;
  readonly terminal: number;
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
function payments(die: Dice, perDay: number): Payment[] {
  const made: Payment[] = [];
  for (let day = 0; day < 90; day += 1) {
    const date = addDays(FIRST, day);
    for (let count = die.whole(0, perDay * 2); count > 0; count -= 1) {
      const payee = die.pick(PAYEES);
      const amount = die.chance(0.25) ? -480 : -die.whole(100, 30_000);
      const late = die.chance(0.04) ? die.whole(1, 4) : 0;
      const copies = die.chance(0.07) ? 2 : 1;
      for (let copy = 0; copy < copies; copy += 1) {
        made.push({
          key: made.length,
          date,
          reported: addDays(date, late),
          amount,
          payee,
          terminal: die.whole(10_000, 90_000),
        });
      }
    }
  }
  return made;
}

/** How a source writes a payment. */
type Writer = (payment: Payment, die: Dice, source: 'a' | 'b') => SourceLine;

const plain = (payment: Payment): SourceLine => ({
  date: payment.date,
  amount: payment.amount,
  description: `CRD PUR ${payment.payee} ${payment.terminal}`,
  reference: null,
  bankId: null,
  isPending: false,
});

/** An export that gives this share of the lines the ids they had, and the others new ones. */
function withIds(share: number): Writer {
  return (payment, die, source) => ({
    ...plain(payment),
    bankId: source === 'a' || die.chance(share) ? `k${payment.key}` : `b${payment.key}`,
  });
}

const WRITERS: Readonly<Record<string, Writer>> = {
  'the same file again': plain,
  'ids that change': withIds(0),
  'ids of which few stay': withIds(0.15),
  'ids of which half stay, and another layout': (payment, die, source) => ({
    ...withIds(0.5)(payment, die, source),
    description:
      source === 'a' ? plain(payment).description : `${payment.payee.toLowerCase()} card payment`,
  }),
  'ids of which most stay': withIds(0.85),
  'ids that stay and a wording cut': (payment, _die, source) => ({
    ...plain(payment),
    bankId: String(payment.key),
    description: plain(payment).description.slice(0, source === 'a' ? 40 : 18),
  }),
  'another layout': (payment, _die, source) =>
    source === 'a'
      ? plain(payment)
      : { ...plain(payment), description: `${payment.payee.toLowerCase()} / card payment` },
  'the wording cut and spaces lost': (payment, _die, source) => ({
    ...plain(payment),
    description:
      source === 'a'
        ? plain(payment).description
        : plain(payment).description.replaceAll(' ', '').slice(0, 20),
  }),
  'value dates instead of booked ones': (payment, die, source) => ({
    ...plain(payment),
    date:
      source === 'a' || die.chance(0.66) ? payment.date : addDays(payment.date, die.whole(1, 2)),
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
function score(
  all: readonly Payment[],
  write: Writer,
  die: Dice,
  { cut, back }: { readonly cut: number; readonly back: number },
): Score {
  const a = exported(all, FIRST, addDays(FIRST, cut));
  const b = exported(all, addDays(FIRST, cut - back), addDays(FIRST, 89));
  const known = new Set(a.map(({ key }) => key));
  const [first, second] = [
    a.map((payment) => write(payment, die, 'a')),
    b.map((payment) => write(payment, die, 'b')),
  ];
  const result = matchSources(first, second);
  expect(result).toHaveLength(b.length);
  const groups = new Map<
    string,
    { resent: number; fresh: number; already: number; isNew: number }
  >();
  // Under other dates a repeat can't be told from its neighbour either.
  const areDatesKept = b.every(({ date }, index) => second[index]?.date === date);
  for (const [index, payment] of b.entries()) {
    const date = areDatesKept ? payment.date : '';
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

  it('says nothing of doubtful lines that come to nil together', () => {
    expect(balanceVerdict(9_500, 0, 9_500)).toBeNull();
    expect(balanceVerdict(9_500, 0, 1)).toBeNull();
    expect(balanceVerdict(9_500, -1, 9_500)).toBe('copies');
    expect(balanceVerdict(9_500, -1, 9_499)).toBe('real');
  });
});

function coffee(date: string, bankId: string | null, amount = -480): SourceLine {
  return {
    date,
    amount,
    description: 'COBBLE CAFE 2',
    reference: null,
    bankId,
    isPending: false,
  };
}

describe('overlapping sources', () => {
  it.each(Object.entries(WRITERS))('are told apart with %s', (_name, write) => {
    const sum: Score = { overlap: 0, doubtful: 0, wrongAlready: 0, wrongNew: 0 };
    for (let seed = 1; seed <= 12; seed += 1) {
      const die = dice(seed);
      const all = payments(die, die.whole(4, 9));
      const one = score(all, write, die, { cut: die.whole(50, 69), back: die.whole(10, 29) });
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
    expect(matchSources([other, pending], [other, booked]).map(({ kind }) => kind)).toEqual([
      'already',
      'already',
    ]);
    // Not marked as pending, it may as well be another payment to the same payee.
    const unmarked = matchSources([other, { ...pending, isPending: false }], [other, booked]);
    expect(unmarked[1]).toEqual({ kind: 'doubtful', index: 1 });
    // Nothing speaks for it where the held line came again as it was.
    const again = { ...pending, isPending: false };
    expect(matchSources([other, again], [other, again, booked]).map(({ kind }) => kind)).toEqual([
      'already',
      'already',
      'new',
    ]);
    // Nor where the sources share no other day, so that either may have cut it.
    expect(matchSources([again], [other, booked])[1]).toEqual({ kind: 'new' });
  });

  it('doubt an amount that changed only when it is near enough, in the same direction and alike', () => {
    const held = coffee('2026-03-14', null, -5000);
    const later = { ...held, date: '2026-03-16' };
    const kinds = (line: SourceLine) =>
      matchSources(
        [coffee('2026-03-13', null, -1), held],
        [coffee('2026-03-13', null, -1), line],
      )[1]?.kind;
    expect(kinds({ ...later, amount: -6500 })).toBe('doubtful');
    expect(kinds({ ...later, amount: -7200 })).toBe('new');
    expect(kinds({ ...later, amount: 5000 })).toBe('new');
    expect(kinds({ ...later, amount: -6500, date: '2026-03-18' })).toBe('new');
    expect(kinds({ ...later, amount: -6500, description: 'STAGWELL FUEL' })).toBe('new');
  });

  it('know a line under another id where the source covers its day', () => {
    const here = [coffee('2026-03-13', '1'), coffee('2026-03-14', '2')];
    const kinds = (incoming: readonly SourceLine[]) =>
      matchSources(here, incoming).map(({ kind }) => kind);
    expect(kinds([coffee('2026-03-13', '1'), coffee('2026-03-14', '3')])).toEqual([
      'already',
      'already',
    ]);
    // One more than are held is another line, whatever its id.
    expect(kinds([...here, coffee('2026-03-14', '3')])).toEqual(['already', 'already', 'new']);
  });

  it('doubt lines under other ids on a day where the sources only touch, unless they are many', () => {
    const held = ['1', '2', '3'].map((id) => coffee('2026-03-14', id));
    const others = ['7', '8', '9'].map((id) => coffee('2026-03-14', id));
    const later = coffee('2026-03-20', '10');
    const kinds = (here: readonly SourceLine[], incoming: readonly SourceLine[]) =>
      matchSources([coffee('2026-03-01', '0'), ...here], [...incoming, later]).map(
        ({ kind }) => kind,
      );
    expect(kinds(held.slice(1), others.slice(1))).toEqual(['doubtful', 'doubtful', 'new']);
    expect(kinds(held, others)).toEqual(['already', 'already', 'already', 'new']);
    expect(kinds(held.slice(1), [...held.slice(1, 2), ...others.slice(1, 2)])).toEqual([
      'already',
      'already',
      'new',
    ]);
  });

  it('take another id beyond the days covered for another line only where the bank keeps its ids', () => {
    const shared = ['1', '2'].map((id) => coffee('2026-03-16', id, -900));
    const kind = (incoming: readonly SourceLine[]) =>
      matchSources(
        [coffee('2026-03-14', '5'), coffee('2026-03-17', '6', -901), ...shared],
        [...incoming, coffee('2026-03-16', '9')],
      ).at(-1)?.kind;
    expect(kind(shared)).toBe('new');
    expect(kind(shared.map((line) => ({ ...line, bankId: `x${line.bankId}` })))).toBe('doubtful');
  });

  it('count genuine repeats on the day of the cut', () => {
    const one = coffee('2026-03-13', null);
    const kinds = matchSources([one], [one, { ...one, description: 'Cobble Café 3' }]);
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
