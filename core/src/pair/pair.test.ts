import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../dates/calendarDate.ts';
import { sumMinor } from '../money/minor.ts';
import { proposeFromPair } from '../propose/proposeFromPair.ts';
import { assign, type Fit } from './assignPairs.ts';
import { candidateName, candidateNames } from './candidateNames.ts';
import { explainDifference, isTransposed } from './explainDifference.ts';
import { accountsNamed, findHalves } from './findHalves.ts';
import { findGroups, findSets } from './findSets.ts';
import { namesIn } from './namesIn.ts';
import type { Candidate, PairLine } from './pairing.ts';
import { type PairFound, proposePairs } from './proposePairs.ts';
import { rankCandidates } from './rankCandidates.ts';
import { lineReader, numbersIn } from './weighPair.ts';

const payees = [
  { id: 'nettle', name: 'Nettle and Thread' },
  { id: 'yarns', name: 'Nettlebed Yarns' },
  { id: 'clay', name: 'Penhallow Clay' },
];

let made = 0;
function line(text: string, amount: number, date = '2026-03-23', change: Partial<PairLine> = {}) {
  made += 1;
  return {
    id: `l${made}`,
    bankAccountId: 'everyday',
    date,
    amount,
    text,
    chequeNumber: null,
    usualPayeeId: null,
    ...change,
  } satisfies PairLine;
}

function candidate(
  kind: Candidate['kind'],
  amount: number,
  date: string,
  change: Partial<Candidate> = {},
): Candidate {
  made += 1;
  const isOnPaper = ['bill', 'invoice', 'creditNote', 'credit', 'returned'].includes(kind);
  return {
    id: `c${made}`,
    kind,
    bankAccountId: isOnPaper ? null : 'everyday',
    date,
    dueDate: null,
    amount,
    payeeId: null,
    payee: null,
    number: null,
    pays: [],
    ...change,
  };
}

const propose = (lines: readonly PairLine[], candidates: readonly Candidate[]) =>
  proposePairs(lines, candidates, payees, [2_000]);
const foundFor = (own: PairLine, candidates: readonly Candidate[]) =>
  propose([own], candidates).pairs.get(own.id);

describe('equal lines for one invoice', () => {
  const invoice = candidate('invoice', 12_000, '2026-03-02', { payeeId: 'nettle', number: '1042' });
  it('are counted as rivals of the one that gets it', () => {
    const lines = ['20', '21', '22'].map((day) => line('NETTLE THREAD', 12_000, `2026-03-${day}`));
    const { pairs } = propose(lines, [invoice]);
    expect([...pairs.values()]).toMatchObject([
      { candidates: [invoice], rivals: 2, isCertain: false },
    ]);
    const { doubts } = proposeFromPair([...pairs.values()][0] as PairFound, null);
    expect(doubts).toEqual([
      { kind: 'equalLines', count: 2, targets: [{ kind: 'invoice', number: '1042' }] },
    ]);
  });

  it('are none where each has one, or where another payee paid', () => {
    const lines = ['20', '21'].map((day) => line('NETTLE THREAD', 12_000, `2026-03-${day}`));
    const other = candidate('invoice', 12_000, '2026-03-03', { payeeId: 'nettle', number: '1043' });
    const both = propose(lines, [invoice, other]).pairs;
    expect([...both.values()].map(({ rivals }) => rivals)).toEqual([0, 0]);
    const strange = line('PENHALLOW CLAY', 12_000, '2026-03-21');
    const [own] = lines;
    const { pairs } = propose(own ? [own, strange] : [], [invoice]);
    expect([...pairs.values()].map(({ rivals }) => rivals)).toEqual([0]);
  });
});

describe('names in wordings', () => {
  const find = namesIn(payees);
  it('are found whole, cut short, and without legal forms', () => {
    expect(find('FPI NETTLE THREAD LTD').get('nettle')).toBe(1);
    expect(find('PENHALLOW CL 2093').get('clay')).toBeGreaterThan(0.5);
    expect(find('PENHALLOWCLAY').get('clay')).toBeGreaterThan(0.5);
  });

  it('are told apart though they begin alike', () => {
    const found = find('NETTLEBED YARNS');
    expect(found.get('yarns')).toBe(1);
    expect(found.get('nettle') ?? 0).toBeLessThan(0.6);
    expect(find('CHEQUE 1042').size).toBe(0);
  });
});

describe('numbers in wordings', () => {
  it('are three digits or more, without leading zeros, with their letters and without', () => {
    expect(numbersIn('INV 01042 AND 39')).toEqual(['1042']);
    expect(numbersIn('RE-2093/A')).toEqual(['RE2093', '2093']);
  });
});

describe('an assignment', () => {
  it('is the likeliest whole, not the likeliest first', () => {
    const greedy: Fit[][] = [
      [
        { column: 0, odds: 9 },
        { column: 1, odds: 8 },
      ],
      [{ column: 0, odds: 7 }],
    ];
    expect(assign(greedy).map((each) => each?.column)).toEqual([1, 0]);
    expect(assign([[{ column: 0, odds: -1 }]])).toEqual([null]);
  });

  it('weighs as much as the best of all that are possible, and says truly how far ahead it is', () => {
    const table = fc.array(
      fc.array(fc.integer({ min: -6, max: 9 }), { minLength: 4, maxLength: 4 }),
      {
        minLength: 1,
        maxLength: 4,
      },
    );
    fc.assert(
      fc.property(table, (odds) => {
        const fits = odds.map((row) =>
          row.flatMap((each, column): Fit[] => (each > -5 ? [{ column, odds: each }] : [])),
        );
        const answer = assign(fits);
        const weight = answer.reduce((sum, each) => sum + (each?.odds ?? 0), 0);
        const best = bestOf(fits, () => true);
        expect(weight).toBeCloseTo(best);
        for (const [row, each] of answer.entries()) {
          if (!each) continue;
          const other = bestOf(fits, (at, column) => at !== row || column !== each.column);
          expect(each.margin).toBeCloseTo(Math.min(best - other, 12));
        }
      }),
    );
  });
});

/** The weight of the best assignment, by trying all of them. */
function bestOf(
  fits: readonly (readonly Fit[])[],
  may: (row: number, column: number | null) => boolean,
  row = 0,
  used: ReadonlySet<number> = new Set(),
): number {
  const own = fits[row];
  if (!own) return 0;
  const alone = may(row, null) ? bestOf(fits, may, row + 1, used) : Number.NEGATIVE_INFINITY;
  return own
    .filter(({ column }) => !used.has(column) && may(row, column))
    .reduce(
      (best, { column, odds }) =>
        Math.max(best, odds + bestOf(fits, may, row + 1, new Set([...used, column]))),
      alone,
    );
}

describe('what a line is in the books', () => {
  const invoice = (number: string, amount: number, date: string, dueDate: string) =>
    candidate('invoice', amount, date, { number, dueDate, payeeId: 'nettle' });

  it('is certain by number or name, and clearly ahead', () => {
    const own = line('NETTLE THREAD INV 1042', 64_000);
    const right = invoice('1042', 64_000, '2026-02-24', '2026-03-22');
    const other = invoice('1047', 64_000, '2026-02-26', '2026-03-28');
    const found = foundFor(own, [other, right]);
    expect(found).toMatchObject({ candidates: [right], isCertain: true, isNumbered: true });
  });

  it('is not certain where two of one amount fit, and both are shown', () => {
    const own = line('NETTLE AND THREAD', 64_000);
    const pair = [
      invoice('1', 64_000, '2026-02-01', '2026-03-10'),
      invoice('2', 64_000, '2026-03-01', '2026-04-01'),
    ];
    const found = foundFor(own, pair);
    expect(found?.isCertain).toBe(false);
    expect(found?.others).toHaveLength(1);
  });

  it('takes lines of one amount together: each gets the one that is likeliest for all', () => {
    const candidates = [
      candidate('cheque', -3_500, '2026-03-02', { number: '000416' }),
      candidate('cheque', -3_500, '2026-03-20', { number: '000417' }),
    ];
    const first = line('CHEQUE', -3_500, '2026-03-09');
    const second = line('CHEQUE 417', -3_500, '2026-03-26');
    const { pairs } = propose([second, first], candidates);
    expect(pairs.get(first.id)?.candidates[0]?.number).toBe('000416');
    expect(pairs.get(second.id)?.candidates[0]?.number).toBe('000417');
  });

  it('is no cheque with another number, and nothing of another bank account', () => {
    const cheque = candidate('cheque', -3_500, '2026-03-20', { number: '000417' });
    const own = line('CHEQUE', -3_500, '2026-03-23', { chequeNumber: '418' });
    expect(foundFor(own, [cheque])).toBeUndefined();
    const elsewhere = candidate('payment', -3_500, '2026-03-23', { bankAccountId: 'card' });
    expect(foundFor(line('X', -3_500), [elsewhere])).toBeUndefined();
  });

  it('says what differs: a date far off, another payee', () => {
    const old = candidate('deposit', 64_000, '2026-02-20', { payeeId: 'nettle' });
    const found = foundFor(line('NETTLE AND THREAD', 64_000), [old]);
    expect(found).toMatchObject({ isCertain: false, differences: [{ kind: 'date', days: 31 }] });
    const yarns = candidate('invoice', 64_000, '2026-03-01', { payeeId: 'yarns' });
    const ranked = rankCandidates([line('NETTLE AND THREAD', 64_000)], [yarns], payees, []);
    expect(ranked.fits[0]?.differences).toEqual([{ kind: 'payee' }]);
  });

  it('may be several that its wording names, or that are all of its payee', () => {
    const both = [
      invoice('1039', 21_200, '2026-02-20', '2026-03-20'),
      invoice('1042', 42_800, '2026-02-24', '2026-03-22'),
    ];
    const more = invoice('1050', 60_400, '2026-03-21', '2026-04-20');
    const named = foundFor(line('NETTLE INV 1042 AND 1039', 64_000), [...both, more]);
    expect(named).toMatchObject({ because: 'numbers', isCertain: true });
    expect(named?.candidates).toHaveLength(2);
    const all = foundFor(line('NETTLE AND THREAD', 64_000), both);
    expect(all).toMatchObject({ because: 'allOfPayee' });
  });

  it('is a returned payment only where something says that it came back', () => {
    const paid = candidate('returned', -26_800, '2026-03-04', {
      payeeId: 'nettle',
      number: '1098',
    });
    expect(foundFor(line('RETURNED NETTLE 1098', -26_800), [paid])?.isCertain).toBe(true);
    expect(foundFor(line('SOMEBODY ELSE', -26_800), [paid])).toBeUndefined();
  });

  it('may nearly be a document: mistyped, or receipts less a fee', () => {
    const bill = candidate('bill', -31_420, '2026-03-02', { payeeId: 'clay', number: '2093' });
    const own = line('PENHALLOW CLAY', -31_240);
    expect(propose([own], [bill]).nearly.get(own.id)).toMatchObject({ because: 'transposed' });
    const receipts = [21_000, 14_550, 9_800].map((amount, at) =>
      candidate('receipt', amount, addDays('2026-03-14', at), { payeeId: 'nettle' }),
    );
    const payout = line('NETTLE AND THREAD PAYOUT', 44_670, '2026-03-18');
    expect(propose([payout], receipts).nearly.get(payout.id)).toMatchObject({
      by: -680,
      because: 'fee',
    });
    const stranger = line('STAGWELL FUEL', -31_240);
    expect(propose([stranger], [bill]).nearly.size).toBe(0);
  });
});

describe('sets that add up', () => {
  const read = lineReader(payees);
  const amounts = fc.array(fc.integer({ min: 100, max: 90_000 }), { minLength: 4, maxLength: 12 });

  it('always do, to the cent', () => {
    fc.assert(
      fc.property(amounts, fc.integer({ min: 2, max: 3 }), (sizes, count) => {
        const own = sizes.map((amount, at) =>
          candidate('invoice', amount, addDays('2026-01-01', at), { payeeId: 'nettle' }),
        );
        const target = sumMinor(sizes.slice(0, count));
        const sets = findSets([read(line('NETTLE AND THREAD', target))], own);
        expect(sets.filter(({ by }) => by === 0).length).toBeGreaterThan(0);
        for (const { candidateIds, by } of sets) {
          const ids = new Set(candidateIds);
          const sum = sumMinor(own.filter(({ id }) => ids.has(id)).map(({ amount }) => amount));
          expect(target - sum).toBe(by);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('are runs of deposits without any name', () => {
    const cheques = [3_310, 12_075, 4_420, 9_990].map((amount, at) =>
      candidate('deposit', amount, addDays('2026-03-10', at)),
    );
    const [set] = findSets([read(line('PAID IN AT BRANCH', 16_495, '2026-03-13'))], cheques);
    expect(set).toMatchObject({ because: 'run', candidateIds: [cheques[1]?.id, cheques[2]?.id] });
  });

  it('may lack a fee of five in a hundred, and not a cent more', () => {
    const own = [60_000, 40_000].map((amount, at) =>
      candidate('invoice', amount, addDays('2026-03-10', at), { payeeId: 'nettle' }),
    );
    const whole = (amount: number) =>
      findSets([read(line('NETTLE AND THREAD', amount, '2026-03-13'))], own).map(({ by }) => by);
    expect(whole(95_000)).toEqual([-5_000]);
    expect(whole(94_999)).toEqual([]);
    expect(whole(100_001)).toEqual([]);
  });

  it('group several lines: instalments of one invoice, and the rest by themselves', () => {
    const invoice = candidate('invoice', 90_000, '2026-01-05', { payeeId: 'nettle' });
    const bills = [4_000, 5_100].map((amount) =>
      candidate('bill', -amount, '2026-02-01', { payeeId: 'clay' }),
    );
    const instalments = ['2026-02-01', '2026-03-01', '2026-04-01'].map((date) =>
      read(line('NETTLE AND THREAD', 30_000, date)),
    );
    const both = read(line('PENHALLOW CLAY', -9_100, '2026-03-02'));
    const groups = findGroups([...instalments, both], [invoice, ...bills]);
    expect(
      groups.map(({ lineIds, candidateIds }) => [lineIds.length, candidateIds.length]),
    ).toEqual([
      [3, 1],
      [1, 2],
    ]);
  });
});

describe('a difference', () => {
  it.each([
    [64_000, 60_400, 'transposed'],
    [9_860, 10_000, 'fee'],
    [-12_000, -10_000, 'taxOff'],
    [-4_850, 4_850, 'sign'],
    [48_500, 4_850, 'decimal'],
    [64_000, 34_000, 'digit'],
    [64_000, 41_111, null],
  ] as const)('of %i against %i may be: %s', (bank, books, because) => {
    expect(explainDifference(bank, books, [2_000], []).because).toBe(because);
  });

  it('may be another one that was left out', () => {
    expect(explainDifference(64_000, 42_800, [], [100, 21_200])).toMatchObject({
      because: 'missing',
      missing: 1,
    });
  });

  it('by swapped digits is always divisible by nine', () => {
    fc.assert(
      fc.property(fc.integer({ min: 100, max: 999_999 }), fc.nat(5), (amount, place) => {
        const digits = [...String(amount)];
        const [a, b] = [digits[place], digits[place + 1]];
        fc.pre(a !== undefined && b !== undefined && a !== b);
        [digits[place], digits[place + 1]] = [b ?? '', a ?? ''];
        const swapped = Number(digits.join(''));
        expect(Math.abs(amount - swapped) % 9).toBe(0);
        expect(isTransposed(amount, swapped)).toBe(true);
      }),
    );
  });
});

describe('halves of moves', () => {
  const own = [
    { id: 'everyday', name: 'Everyday 4471' },
    { id: 'pot', name: 'Tax pot 4480' },
  ];
  const out = line('FT TO TAX POT 4480', -50_000, '2026-03-05');
  const into = line('FROM EVERYDAY 4471', 50_000, '2026-03-07', { bankAccountId: 'pot' });

  it('are found across accounts with days between', () => {
    const halves = findHalves([out, into], own, payees);
    expect(halves.get(out.id)).toMatchObject({ other: { id: into.id }, isCertain: true });
    expect(halves.get(into.id)?.other.id).toBe(out.id);
  });

  it('are not what somebody else was paid, nor too far apart, nor on one account', () => {
    const paid = line('PENHALLOW CLAY', -50_000, '2026-03-05');
    expect(findHalves([paid, into], own, payees).get(paid.id)?.isCertain ?? false).toBe(false);
    const late = { ...into, date: '2026-03-20' };
    expect(findHalves([out, late], own, payees).size).toBe(0);
    expect(findHalves([out, { ...into, bankAccountId: 'everyday' }], own, payees).size).toBe(0);
  });

  it('are named though nothing has arrived', () => {
    expect(accountsNamed([out, line('TAX OFFICE', -1)], own, payees)).toEqual(
      new Map([[out.id, 'pot']]),
    );
  });
});

describe('names of what is in the books', () => {
  it('are short, also for several', () => {
    expect(candidateName({ kind: 'cheque', number: '000416' })).toBe('Cheque 000416');
    const invoices = ['1039', '1042'].map((number) => ({ kind: 'invoice' as const, number }));
    expect(candidateNames(invoices)).toBe('Invoices 1039, 1042');
    expect(candidateNames([...invoices, { kind: 'cheque', number: '1' }])).toBe('3 that add up');
    expect(candidateNames([...invoices, ...invoices])).toBe('4 invoices');
  });
});
