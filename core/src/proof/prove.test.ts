import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isProved, type ProofCause, type ProofSums, prove, sumProofs } from './prove.ts';

const sums: ProofSums = {
  currency: 'EUR',
  bankAccountId: 'everyday',
  date: '2026-03-31',
  stated: { date: '2026-03-31', amount: 1241820, since: 0, sinceCount: 0 },
  calculated: 1241820,
  open: -191406,
  openCount: 198,
  keptOut: 0,
  keptOutCount: 0,
  outstanding: -64000,
  outstandingCount: 3,
  books: 1369226,
  causes: [],
};

const cause = (amount: number): ProofCause => ({
  kind: 'sidesDiffer',
  amount,
  bankAccountId: 'everyday',
  date: '2026-03-09',
  lineId: 'line',
  entryId: 'entry',
  text: 'TIDEMARK FRT',
  since: null,
  likely: null,
});

describe('the proof', () => {
  it('is the equation of bank and books', () => {
    const proof = prove(sums);
    expect(proof).toMatchObject({
      bank: 1241820,
      shouldSay: 1369226,
      unexplained: 0,
      isStated: true,
      causes: [],
    });
    expect(isProved(proof)).toBe(true);
  });

  it('says calculated where the bank states nothing, or nothing as new as the lines', () => {
    const none = prove({ ...sums, stated: null });
    expect(none).toMatchObject({ bank: 1241820, isStated: false, statedDate: null });
    expect(isProved(none)).toBe(false);
    const older = { date: '2026-02-28', amount: 1000000, since: 241820, sinceCount: 4 };
    expect(prove({ ...sums, stated: older })).toMatchObject({ bank: 1241820, isStated: false });
  });

  it('is not stated where lines since come to zero, only where there are none', () => {
    const stated = { date: '2026-03-30', amount: 1241820, since: 0, sinceCount: 2 };
    expect(prove({ ...sums, stated }).isStated).toBe(false);
    expect(prove({ ...sums, stated: { ...stated, sinceCount: 0 } }).isStated).toBe(true);
  });

  it('stays explained when a line goes from open to posted, and only then', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), (amount) => {
        const posted = { ...sums, open: sums.open - amount, books: sums.books + amount };
        expect(prove(posted).unexplained).toBe(0);
        expect(prove({ ...sums, books: sums.books + amount }).unexplained).toBe(0 - amount);
      }),
    );
  });

  it('names what is unexplained: the parts add up to it, whatever it is', () => {
    const part = fc.integer({ min: -1e9, max: 1e9 });
    fc.assert(
      fc.property(part, part, fc.array(part.filter((each) => each !== 0)), (bank, books, known) => {
        const proof = prove({
          ...sums,
          stated: { date: '2026-03-31', amount: sums.calculated + bank, since: 0, sinceCount: 0 },
          books: sums.books + books,
          causes: known.map(cause),
        });
        const named = proof.causes.reduce((sum, { amount }) => sum + amount, 0);
        expect(named).toBe(proof.unexplained);
        expect(proof.causes.some(({ kind }) => kind === 'bankDiffers')).toBe(bank !== 0);
      }),
    );
  });

  it('is not proved while two causes cancel each other', () => {
    const proof = prove({ ...sums, causes: [cause(4_850), cause(-4_850)] });
    expect(proof.unexplained).toBe(0);
    expect(isProved(proof)).toBe(false);
  });

  it('weighs each of its terms, with its sign', () => {
    const term = fc.integer({ min: -1e9, max: 1e9 });
    fc.assert(
      fc.property(
        fc.record({ open: term, keptOut: term, outstanding: term, since: term }),
        (terms) => {
          const { since, ...rest } = terms;
          const stated = { date: '2026-03-01', amount: 500, since, sinceCount: 2 };
          const proof = prove({ ...sums, ...rest, stated, books: 0 });
          expect(proof.bank).toBe(500 + since);
          const said = 500 + since - terms.open - terms.keptOut + terms.outstanding;
          expect(proof.shouldSay).toBe(said);
          expect(proof.unexplained).toBe(said);
        },
      ),
    );
  });

  it('says where the bank differs and what nothing explains, each with its day', () => {
    const stated = { date: '2026-03-20', amount: 1241700, since: 0, sinceCount: 0 };
    const { causes } = prove({ ...sums, stated, books: sums.books + 30 });
    const nowhere = { lineId: null, entryId: null, text: null, since: null, likely: null };
    expect(causes).toEqual([
      {
        ...nowhere,
        kind: 'bankDiffers',
        amount: -120,
        bankAccountId: 'everyday',
        date: '2026-03-20',
      },
      { ...nowhere, kind: 'unknown', amount: -30, bankAccountId: 'everyday', date: '2026-03-31' },
    ]);
  });

  it('adds up every term over bank accounts, from the oldest stated day on', () => {
    const one = prove({ ...sums, causes: [cause(5)], keptOut: 7, keptOutCount: 1 });
    const stated = { date: '2026-02-28', amount: 100, since: 0, sinceCount: 0 };
    const other = prove({ ...sums, stated, calculated: 100, outstanding: 9, books: 3 });
    const both = sumProofs([one, other], '2026-03-31', 'EUR');
    const keys = ['bank', 'open', 'openCount', 'keptOut', 'keptOutCount', 'outstanding'] as const;
    for (const key of keys) expect(both[key]).toBe(one[key] + other[key]);
    const more = ['outstandingCount', 'shouldSay', 'books', 'unexplained', 'statedCount'] as const;
    for (const key of more) expect(both[key]).toBe(one[key] + other[key]);
    expect(both).toMatchObject({ isStated: true, statedDate: '2026-02-28', accountCount: 2 });
    expect(both.causes).toEqual([...one.causes, ...other.causes]);
    expect(sumProofs([], '2026-03-31', 'EUR')).toMatchObject({
      bank: 0,
      statedDate: null,
      causes: [],
    });
  });

  it('adds up over bank accounts, and is stated only if all are', () => {
    const two = sumProofs([prove(sums), prove({ ...sums, stated: null })], sums.date, 'EUR');
    expect(two).toMatchObject({
      bank: 2483640,
      openCount: 396,
      unexplained: 0,
      isStated: false,
      accountCount: 2,
      statedCount: 1,
    });
  });
});
