import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ZubrellError } from '../errors.ts';
import { formatAmount, toDecimal } from './formatAmount.ts';
import { minorDigits, sumMinor } from './minor.ts';
import { parseAmount } from './parseAmount.ts';
import { largestRemainder, splitAmount } from './splitAmount.ts';
import { taxInside, taxOn } from './taxInside.ts';

const amounts = fc.integer({ min: -1e12, max: 1e12 });
const currencies = fc.constantFrom('EUR', 'JPY', 'KWD', 'CLF');

function codeOf(work: () => unknown): string | null {
  try {
    work();
    return null;
  } catch (error) {
    if (error instanceof ZubrellError) return error.code;
    throw error;
  }
}

describe('amounts', () => {
  it('read back exactly what was written, in every currency and with either mark', () => {
    fc.assert(
      fc.property(amounts, currencies, fc.constantFrom('.', ','), (amount, currency, mark) => {
        const decimal = mark as '.' | ',';
        const text = toDecimal(amount, currency).replace('.', decimal);
        expect(parseAmount(text, decimal, currency)).toBe(amount);
        expect(parseAmount(text, 'either', currency)).toBe(amount);
      }),
    );
  });

  it('read back what the screens show, with thousands separators and a true minus', () => {
    fc.assert(
      fc.property(amounts, currencies, fc.boolean(), (amount, currency, plus) => {
        expect(parseAmount(formatAmount(amount, currency, { plus }), '.', currency)).toBe(amount);
      }),
    );
  });

  it.each([
    ['1.234,50', ',', 123450],
    ['1 234,5', ',', 123450],
    ['1’234.50', '.', 123450],
    ['(12.00)', '.', -1200],
    ['12.00-', '.', -1200],
    ['−0.05', '.', -5],
    ['+7', '.', 700],
    ['48.5000', '.', 4850],
    ['.5', '.', 50],
    ['-1.006,60', ',', -100660],
    ['-1.006,60', '.', -100660],
    ['-1,006.60', ',', -100660],
    ['-1,006.60', 'either', -100660],
    ['+1 006,60', ',', 100660],
    ['+1 006,60', 'either', 100660],
    ["1'006.60", '.', 100660],
    ['1.006,6-', 'either', -100660],
    ['12,50', '.', 1250],
    ['1,006', '.', 100600],
    ['1.006', ',', 100600],
    ['1.006.600', 'either', 100660000],
    ['(1,006.60)', 'either', -100660],
    ['48.50 DR', '.', -4850],
    ['48.50CR', '.', 4850],
    ['Dr. 48.50', '.', -4850],
    ['1.006,60 D', ',', -100660],
    ['48,50 EUR', ',', 4850],
    ['EUR -48.50', '.', -4850],
    ['-€48.50', '.', -4850],
    ['100000000000.00', '.', 10_000_000_000_000],
  ] as const)('reads %s with %s', (text, mark, amount) => {
    expect(parseAmount(text, mark, 'EUR')).toBe(amount);
  });

  it.each([
    ['1.2.3', 'AMOUNT_UNREADABLE'],
    ['1,23,456', 'AMOUNT_UNREADABLE'],
    ['-48.50 CR', 'AMOUNT_UNREADABLE'],
    ['1.234.56', 'AMOUNT_UNREADABLE'],
    ['1,234,56', 'AMOUNT_UNREADABLE'],
    ['12,5000', 'AMOUNT_UNREADABLE'],
    ['48.50 USD', 'AMOUNT_UNREADABLE'],
    ['100000000000.01', 'AMOUNT_TOO_LARGE'],
    ['', 'AMOUNT_UNREADABLE'],
    ['-', 'AMOUNT_UNREADABLE'],
    ['1e5', 'AMOUNT_UNREADABLE'],
    ['NaN', 'AMOUNT_UNREADABLE'],
    ['0.001', 'AMOUNT_TOO_FINE'],
    ['99999999999999999.00', 'AMOUNT_TOO_LARGE'],
  ])('refuses %s', (text, code) => {
    expect(codeOf(() => parseAmount(text, '.', 'EUR'))).toBe(code);
  });

  it('never pass through floating point', () => {
    expect(parseAmount('0.29', '.', 'EUR')).toBe(29);
    expect(parseAmount('99999999999.99', '.', 'EUR')).toBe(9999999999999);
    expect(minorDigits('JPY')).toBe(0);
  });
});

describe('splits', () => {
  const weights = fc.array(fc.integer({ min: 0, max: 10_000 }), { minLength: 1, maxLength: 12 });

  it('share every cent, each within one of its exact share', () => {
    fc.assert(
      fc.property(amounts, weights, (amount, shares) => {
        const total = sumMinor(shares);
        fc.pre(total > 0);
        const parts = largestRemainder(amount, shares);
        expect(sumMinor(parts)).toBe(amount);
        for (const [index, part] of parts.entries()) {
          const exact = (amount * (shares[index] ?? 0)) / total;
          expect(Math.abs(part - exact)).toBeLessThan(1 + Math.abs(exact) * 1e-9);
        }
      }),
    );
  });

  it('add up to the line with fixed parts of either sign, percentages and deductions', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e9 }),
        fc.integer({ min: -1e6, max: 0 }),
        fc.integer({ min: 0, max: 10_000 }),
        fc.integer({ min: 0, max: 9_000 }),
        (line, fee, share, rate) => {
          const parts = splitAmount(line, [
            { kind: 'fixed', amount: fee },
            { kind: 'percent', basisPoints: share },
            { kind: 'grossUp', basisPoints: rate },
            { kind: 'percent', basisPoints: 10_000 - share },
          ]);
          expect(sumMinor(parts)).toBe(line);
          expect(parts[0]).toBe(fee);
        },
      ),
    );
  });

  it('gross up what was deducted before the line arrived', () => {
    expect(splitAmount(9700, [{ kind: 'grossUp', basisPoints: 300 }, { kind: 'rest' }])).toEqual([
      -300, 10000,
    ]);
  });

  it.each([
    [[], 'SPLIT_EMPTY'],
    [[{ kind: 'fixed', amount: -1001 }, { kind: 'rest' }], 'SPLIT_FIXED_TOO_LARGE'],
    [[{ kind: 'fixed', amount: -999 }], 'SPLIT_NOT_WHOLE'],
    [[{ kind: 'percent', basisPoints: 11_000 }], 'SPLIT_PERCENT'],
    [[{ kind: 'rest' }, { kind: 'rest' }], 'SPLIT_PERCENT'],
    [[{ kind: 'grossUp', basisPoints: 10_000 }, { kind: 'rest' }], 'SPLIT_RATE'],
  ] as const)('refuse %j', (parts, code) => {
    expect(codeOf(() => splitAmount(-1000, parts))).toBe(code);
  });
});

describe('tax', () => {
  it('inside a gross amount rounds half away from zero, alike for both signs', () => {
    expect(taxInside(-4850, 2000)).toBe(-808);
    // 0.03 at 20 % holds exactly half a cent.
    expect(taxInside(3, 2000)).toBe(1);
    expect(taxInside(-3, 2000)).toBe(-1);
    fc.assert(
      fc.property(amounts, fc.integer({ min: 0, max: 5_000 }), (gross, rate) => {
        const tax = taxInside(gross, rate);
        expect(taxInside(-gross, rate) + tax).toBe(0);
        // The net taxed again gives the gross, within the cent that rounding allows.
        expect(Math.abs(gross - tax + taxOn(gross - tax, rate) - gross)).toBeLessThanOrEqual(1);
      }),
    );
  });
});
