import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sumOf } from '../money/minor.ts';
import { exchangedLegs, settledWorth, withDifference } from './exchangedLegs.ts';
import {
  crossRate,
  inBooksCurrency,
  inOtherCurrency,
  inverseRate,
  parseRate,
  rateOf,
} from './rate.ts';
import { readRates } from './readRates.ts';

describe('a rate', () => {
  it.each([
    ['1,0832', '1.0832'],
    [' 0.9231905 ', '0.9231905'],
    ['157', '157'],
    ['0', null],
    ['-1', null],
    ['1.0832.5', null],
    ['1e3', null],
  ])('%s is read as %s', (text, rate) => {
    expect(parseRate(text)).toBe(rate);
  });

  it.each([
    // amount, from, rate, to, in the books' currency
    [100_000, 'USD', '0.92', 'EUR', 92_000],
    [100_000, 'USD', '0.923190546529', 'EUR', 92_319],
    [50, 'USD', '0.91', 'EUR', 46], // 0.455: half goes away from nil
    [-50, 'USD', '0.91', 'EUR', -46],
    [15_700, 'JPY', '0.0061', 'EUR', 9_577], // no decimals into two
    [1_234, 'KWD', '3', 'EUR', 370], // three decimals into two
    [10_000, 'EUR', '163.5', 'JPY', 16_350],
  ])('takes %i %s at %s into %s as %i', (...[amount, from, rate, to, worth]) => {
    expect(inBooksCurrency(amount, rate, from, to)).toBe(worth);
  });

  it('says what two amounts of the same worth are to each other', () => {
    const rate = rateOf(108_210, 'USD', 100_000, 'EUR');
    expect(inBooksCurrency(108_210, rate, 'USD', 'EUR')).toBe(100_000);
    expect(inOtherCurrency(100_000, rate, 'EUR', 'USD')).toBe(108_210);
  });

  it('goes by way of a base, and turned round comes back', () => {
    expect(crossRate('0.85', '1.0625')).toBe('0.8');
    const rates = fc.integer({ min: 1, max: 9_999_999 }).map((each) => String(each / 10_000));
    fc.assert(
      fc.property(rates, fc.integer({ min: -1e9, max: 1e9 }), (rate, amount) => {
        const there = inBooksCurrency(amount, rate, 'USD', 'EUR');
        const around = inOtherCurrency(there, rate, 'EUR', 'USD');
        // A minor unit of the books' currency may be worth many of the other.
        expect(Math.abs(around - amount)).toBeLessThanOrEqual(1 + 0.5 / Number(rate));
        const again = inBooksCurrency(amount, inverseRate(inverseRate(rate)), 'USD', 'EUR');
        expect(Math.abs(again - there)).toBeLessThanOrEqual(1 + Math.abs(there) * 1e-6);
      }),
    );
  });
});

describe('legs in another currency', () => {
  const leg = (accountId: string, amount: number) => ({
    accountId,
    amount,
    taxCodeId: null,
    role: 'base' as const,
  });

  it('keep what they are in it, and what rounding leaves is gain or loss', () => {
    const legs = [leg('bank', -1_000), leg('cost', 833), leg('tax', 167)];
    const taken = exchangedLegs(legs, { currency: 'USD', rate: '0.915' }, 'EUR', () => 'gain');
    // 9.15 out; 7.62195 is 7.62 and 1.52805 is 1.53, which is 9.15: nothing is left.
    expect(taken.map(({ amount, original }) => [amount, original])).toEqual([
      [-915, -1_000],
      [762, 833],
      [153, 167],
    ]);
  });

  it('come to nil in the books at any rate', () => {
    const parts = fc.array(fc.integer({ min: -1e7, max: 1e7 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(parts, fc.integer({ min: 1, max: 3_000_000 }), (amounts, size) => {
        const legs = [
          leg('bank', -amounts.reduce((sum, each) => sum + each, 0)),
          ...amounts.map((amount) => leg('cost', amount)),
        ];
        const exchange = { currency: 'USD', rate: String(size / 1_000_000) };
        const taken = exchangedLegs(legs, exchange, 'EUR', () => 'gain');
        expect(sumOf(taken)).toBe(0);
        const gain = sumOf(taken.filter(({ accountId }) => accountId === 'gain'));
        expect(Math.abs(gain)).toBeLessThanOrEqual(amounts.length);
      }),
    );
  });
});

/**
 * What is owed leaves the books at what it stood there for, and what the rate made of it since is a gain or a loss:
 * a settled monetary item is derecognised at its carrying amount, the rest goes to profit or loss.
 */
describe('a document in another currency that is paid', () => {
  it.each([
    // taken in at, paid by a line of, at the rate, control leg, gain (−) or loss (+)
    ['a bill, the rate rose', -92_000, -100_000, '0.95', 92_000, 3_000],
    ['a bill, the rate fell', -92_000, -100_000, '0.9', 92_000, -2_000],
    ['an invoice, the rate rose', 92_000, 100_000, '0.95', -92_000, -3_000],
    ['an invoice, the rate fell', 92_000, 100_000, '0.9', -92_000, 2_000],
  ])('%s', (...[, worth, line, rate, owed, difference]) => {
    const bank = { accountId: 'bank', amount: line, taxCodeId: null, role: 'bank' as const };
    const control = { accountId: 'owed', amount: -line, taxCodeId: null, role: 'control' as const };
    const taken = exchangedLegs([bank, control], { currency: 'USD', rate }, 'EUR', () => 'gain');
    const legs = withDifference(taken, new Map([['owed', -worth]]), () => 'gain');
    expect(sumOf(legs)).toBe(0);
    expect(sumOf(legs.filter(({ accountId }) => accountId === 'owed'))).toBe(owed);
    expect(sumOf(legs.filter(({ accountId }) => accountId === 'gain'))).toBe(difference);
  });

  it('in parts leaves nothing behind, in whatever order they come and go', () => {
    expect(
      settledWorth({
        amount: -100_000,
        worth: -92_000,
        before: { amount: 0, worth: 0 },
        settled: -33_333,
      }),
    ).toBe(-30_666);
    const amounts = fc.integer({ min: 3, max: 1e9 });
    fc.assert(
      fc.property(
        amounts,
        amounts,
        fc.array(fc.double({ min: 0, max: 1, noNaN: true })),
        (amount, worth, shares) => {
          let before = { amount: 0, worth: 0 };
          for (const share of [...shares, 1]) {
            const settled = Math.floor((amount - before.amount) * share);
            if (settled === 0) continue;
            const part = settledWorth({ amount, worth, before, settled });
            before = { amount: before.amount + settled, worth: before.worth + part };
          }
          const left = amount - before.amount;
          if (left > 0) {
            const part = settledWorth({ amount, worth, before, settled: left });
            before = { amount, worth: before.worth + part };
          }
          expect(before).toEqual({ amount, worth });
          const back = settledWorth({ amount, worth, before, settled: -amount });
          expect(back).toBe(-worth);
        },
      ),
    );
  });
});

describe('a file of rates', () => {
  it('of a central bank as XML says what one euro is worth', () => {
    const xml = `<?xml version="1.0"?><Envelope><Cube>
      <Cube time="2026-03-03"><Cube currency="USD" rate="1.25"/><Cube currency="GBP" rate="0.8"/></Cube>
      <Cube time="2026-03-02"><Cube currency="USD" rate="1.6"/><Cube currency="GBP" rate="0.8"/></Cube>
    </Cube></Envelope>`;
    expect(readRates(xml, 'EUR')).toEqual({
      rates: [
        { currency: 'USD', date: '2026-03-03', rate: '0.8' },
        { currency: 'GBP', date: '2026-03-03', rate: '1.25' },
        { currency: 'USD', date: '2026-03-02', rate: '0.625' },
        { currency: 'GBP', date: '2026-03-02', rate: '1.25' },
      ],
      problems: [],
    });
    // Books in pounds: by way of the euro.
    expect(readRates(xml, 'GBP').rates.slice(0, 2)).toEqual([
      { currency: 'USD', date: '2026-03-03', rate: '0.64' },
      { currency: 'EUR', date: '2026-03-03', rate: '0.8' },
    ]);
  });

  it('as CSV has a row a day or a row a rate', () => {
    expect(readRates('Date,USD,JPY\n2026-03-03,1.25,N/A\n', 'EUR').rates).toEqual([
      { currency: 'USD', date: '2026-03-03', rate: '0.8' },
    ]);
    expect(readRates('date;currency;rate;base\n03.03.2026;EUR;0,8;USD', 'EUR').rates).toEqual([
      { currency: 'USD', date: '2026-03-03', rate: '0.8' },
    ]);
    expect(readRates('date;currency;rate\n2026-03-03;USD;1,25', 'EUR').rates).toEqual([
      { currency: 'USD', date: '2026-03-03', rate: '0.8' },
    ]);
  });

  it.each([
    ['day;USD\n2026-03-03;1', 'no column “date”'],
    ['Date;Dollar\n2026-03-03;1', 'no currencies'],
    ['Date;USD\nsoon;1.1', 'isn’t a day'],
    ['Date;USD\n2026-03-03;dear', 'isn’t a rate'],
    ['date;currency;rate\n2026-03-03;Dollar;1', 'isn’t a currency'],
    ['date;currency;rate;base\n2026-03-03;USD;1;GBP', 'no rate for EUR'],
    ['<Envelope><Cube time="2026-03-03"/></Envelope>', 'no rates'],
    ['<Envelope><Cube', 'no rates'],
  ])('says what is wrong with %s', (text, message) => {
    const { rates, problems } = readRates(text, 'EUR');
    expect(rates).toEqual([]);
    expect(problems[0]?.message).toContain(message);
  });
});
