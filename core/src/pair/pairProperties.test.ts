import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../dates/calendarDate.ts';
import { groupBy } from '../groupBy.ts';
import { sumOf } from '../money/minor.ts';
import { explainDifference } from './explainDifference.ts';
import { findHalves } from './findHalves.ts';
import { type Candidate, candidateKinds, isDocument, type PairLine } from './pairing.ts';
import { proposePairs } from './proposePairs.ts';
import { rankCandidates } from './rankCandidates.ts';

const payees = [
  { id: 'nettle', name: 'Nettle and Thread' },
  { id: 'clay', name: 'Penhallow Clay' },
];
const own = [
  { id: 'everyday', name: 'Everyday 4471' },
  { id: 'pot', name: 'Tax pot 4480' },
];
const TEXTS = [
  'NETTLE AND THREAD 1042',
  'PENHALLOW CLAY',
  'FT TO TAX POT 4480',
  'RETURNED NETTLE 1042',
  'CHEQUE 417',
  'STAGWELL FUEL',
  '',
];

/** Few amounts and days, so that much collides. */
const amount = fc.constantFrom(-64_000, -4_850, 4_850, 64_000, 21_200, 42_800, -1);
const date = fc.integer({ min: 0, max: 40 }).map((days) => addDays('2026-03-01', days));
const bankAccountId = fc.constantFrom('everyday', 'pot');
const payeeId = fc.constantFrom('nettle', 'clay', null);

const lines = fc
  .array(
    fc.record({
      bankAccountId,
      date,
      amount,
      text: fc.constantFrom(...TEXTS),
      chequeNumber: fc.constantFrom('417', null),
      usualPayeeId: payeeId,
    }),
    { maxLength: 14 },
  )
  .map((all) => all.map((line, at): PairLine => ({ id: `l${at}`, ...line })));

const candidates = fc
  .array(
    fc.record({
      kind: fc.constantFrom(...candidateKinds),
      bankAccountId,
      date,
      dueDate: fc.option(date),
      amount,
      payeeId,
      number: fc.constantFrom('1042', '000417', null),
    }),
    { maxLength: 14 },
  )
  .map((all) =>
    all.map(
      (each, at): Candidate => ({
        ...each,
        id: `c${at}`,
        payee: null,
        pays: [],
        bankAccountId: isDocument(each) ? null : each.bankAccountId,
      }),
    ),
  );

/** Two lines that name the same documents, which add up for either: once they were proposed for both. */
const TWO_LINES_OF_ONE_NUMBER: [PairLine[], Candidate[]] = [
  ['l0', 'l1'].map((id) => ({
    id,
    bankAccountId: 'everyday',
    date: '2026-03-01',
    amount: -4_850,
    text: 'CHEQUE 417',
    chequeNumber: '417',
    usualPayeeId: 'nettle',
  })),
  (['creditNote', 'creditNote', 'bill'] as const).map((kind, index) => ({
    id: `c${index}`,
    kind,
    bankAccountId: null,
    date: '2026-03-01',
    dueDate: null,
    amount: kind === 'bill' ? 4_850 : -4_850,
    payeeId: 'nettle',
    payee: null,
    number: '000417',
    pays: [],
  })),
];

describe('whatever lines and books hold, pairs that are proposed', () => {
  it('add up to the cent, on the line’s own bank account, and take nothing twice', () => {
    fc.assert(
      fc.property(lines, candidates, (open, there) => {
        const { pairs } = proposePairs(open, there, [...payees, ...own], [2_000]);
        const taken: string[] = [];
        for (const [id, found] of pairs) {
          const line = open.find((each) => each.id === id);
          expect(sumOf(found.candidates)).toBe(line?.amount);
          for (const each of found.candidates) {
            taken.push(each.id);
            if (each.bankAccountId !== null) expect(each.bankAccountId).toBe(line?.bankAccountId);
          }
          const [only, ...more] = found.candidates;
          if (more.length === 0) expect(found.others).not.toContainEqual(only);
        }
        expect(new Set(taken).size).toBe(taken.length);
      }),
      { numRuns: 200, examples: [TWO_LINES_OF_ONE_NUMBER] },
    );
  });

  it('are certain only for what does not hang on the order they come in', () => {
    fc.assert(
      fc.property(lines, candidates, (open, there) => {
        const names = [...payees, ...own];
        const certain = (all: readonly PairLine[], books: readonly Candidate[]) =>
          [...proposePairs(all, books, names, []).pairs]
            .filter(([, { isCertain }]) => isCertain)
            .map(([id, found]) => `${id} ${found.candidates.map((each) => each.id).sort()}`)
            .sort();
        expect(certain([...open].reverse(), [...there].reverse())).toEqual(certain(open, there));
      }),
      { numRuns: 200, examples: [TWO_LINES_OF_ONE_NUMBER] },
    );
  });

  it('show all of the same amount in the pairing view, and near misses never among them', () => {
    fc.assert(
      fc.property(lines, candidates, (open, there) => {
        const [line] = open;
        if (!line) return;
        const { fits, nearMisses, sets } = rankCandidates([line], there, payees, [2_000]);
        const here = there.filter(
          (each) =>
            each.amount === line.amount &&
            (each.bankAccountId === null || each.bankAccountId === line.bankAccountId),
        );
        expect(fits.map(({ candidate }) => candidate.id).sort()).toEqual(
          here.map(({ id }) => id).sort(),
        );
        for (const { candidate } of nearMisses) expect(candidate.amount).not.toBe(line.amount);
        for (const { set } of sets) {
          const ids = new Set(set.candidateIds);
          const sum = sumOf(there.filter(({ id }) => ids.has(id)));
          expect(sum + set.by).toBe(line.amount);
        }
      }),
      { numRuns: 200 },
    );
  });
});

describe('halves of moves, whatever the lines', () => {
  it('are each other’s, of opposite amounts, on two accounts, a week apart at most', () => {
    fc.assert(
      fc.property(lines, (open) => {
        const halves = findHalves(open, own, payees);
        for (const [id, { other, isCertain }] of halves) {
          const line = open.find((each) => each.id === id);
          expect(other.amount).toBe(-(line?.amount ?? 0));
          expect(other.bankAccountId).not.toBe(line?.bankAccountId);
          expect(other.date <= addDays(line?.date ?? '', 7)).toBe(true);
          expect(other.date >= addDays(line?.date ?? '', -7)).toBe(true);
          expect(halves.get(other.id)).toMatchObject({ other: { id }, isCertain });
        }
      }),
    );
  });
});

describe('an explained difference', () => {
  const positive = fc.integer({ min: 1_000, max: 5_000_000 });

  it('is always what is left between the two sides', () => {
    fc.assert(
      fc.property(fc.integer(), fc.integer(), fc.array(fc.integer()), (bank, books, others) => {
        const { by, because, missing } = explainDifference(bank, books, [2_000, 500], others);
        expect(by).toBe(bank - books);
        if (because === 'missing') expect(others[missing ?? -1]).toBe(by);
        else expect(missing).toBeNull();
        if (by === 0) expect(because).toBeNull();
      }),
    );
  });

  it('knows a sign, a decimal mark and a tax that was left off', () => {
    fc.assert(
      fc.property(positive, (size) => {
        expect(explainDifference(size, -size, [], []).because).toBe('sign');
        expect(explainDifference(-size, -size * 100, [], []).because).toBe('decimal');
        const gross = Math.round(size * 1.2);
        const found = explainDifference(-gross, -size, [2_000], []).because;
        // By chance the two may also be swapped digits of each other, which is said first.
        expect(['taxOff', 'transposed']).toContain(found);
      }),
    );
  });

  it('is no fee where more came in, nor where a tenth is gone', () => {
    expect(explainDifference(9_860, 10_000, [], []).because).toBe('fee');
    expect(explainDifference(11_140, 10_000, [], []).because).toBeNull();
    expect(explainDifference(8_850, 10_000, [], []).because).toBeNull();
  });
});

describe('groups', () => {
  it('hold every item once, under its own key, in order', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -20, max: 20 })), (all) => {
        const groups = groupBy(all, Math.abs);
        expect([...groups.values()].flat().sort((a, b) => a - b)).toEqual(
          [...all].sort((a, b) => a - b),
        );
        for (const [key, items] of groups) {
          expect(items).toEqual(all.filter((item) => Math.abs(item) === key));
        }
      }),
    );
  });
});
