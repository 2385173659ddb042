import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ZubrellError } from '../errors.ts';
import { decimalMarkOf } from './decimalMark.ts';
import { formatAmount, toDecimal } from './formatAmount.ts';
import { minorDigits, roundedQuotient, sumMinor } from './minor.ts';
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

  it.each([
    [0, 'EUR', false, '0.00'],
    [0, 'EUR', true, '0.00'],
    [1, 'EUR', true, '+0.01'],
    [-1, 'EUR', true, '−0.01'],
    [1, 'EUR', false, '0.01'],
    [123456789, 'EUR', false, '1,234,567.89'],
    [123456, 'JPY', false, '123,456'],
    [1234, 'KWD', false, '1.234'],
  ] as const)('show %i %s (plus: %s) as %s', (amount, currency, plus, shown) => {
    expect(formatAmount(amount, currency, { plus })).toBe(shown);
    expect(formatAmount(amount, currency)).toBe(shown.replace('+', ''));
  });

  it('are written plain for programs, also nothing and less than one', () => {
    expect(['EUR', 'JPY', 'KWD'].map((currency) => toDecimal(0, currency))).toEqual([
      '0.00',
      '0',
      '0.000',
    ]);
    expect(toDecimal(-5, 'EUR')).toBe('-0.05');
    expect(toDecimal(-5, 'JPY')).toBe('-5');
  });

  it.each([
    [['1.234,50', '48'], ','],
    [['1,234.50', '48,5'], '.'],
    [['12,5', '3,20', '7.10'], ','],
    [['1,234', '1,500'], '.'],
    [[' 48,50 EUR ', '9'], ','],
    [['48.50-'], '.'],
    [['48,123', '48,1'], ','],
    [[], '.'],
  ] as const)('have the decimal mark that most of %j have: %s', (column, mark) => {
    expect(decimalMarkOf(column)).toBe(mark);
  });

  it('round half away from zero, whatever the signs', () => {
    const halves = [
      [5n, 2n, 3],
      [-5n, 2n, -3],
      [5n, -2n, -3],
      [-5n, -2n, 3],
      [4n, 3n, 1],
      [5n, 3n, 2],
      [1n, 3n, 0],
      [0n, -3n, 0],
      [-1n, 3n, 0],
    ] as const;
    for (const [top, bottom, rounded] of halves) {
      expect(Object.is(roundedQuotient(top, bottom), rounded)).toBe(true);
    }
  });

  it('say in refusals what was read and how it should look', () => {
    const paramsOf = (text: string, mark: '.' | ',', currency: string) => {
      try {
        parseAmount(text, mark, currency);
      } catch (error) {
        return (error as ZubrellError).params;
      }
      return null;
    };
    expect(paramsOf(' x ', '.', 'EUR')).toEqual({ text: 'x', example: '48.50' });
    expect(paramsOf('x', ',', 'EUR')).toEqual({ text: 'x', example: '48,50' });
    expect(paramsOf('x', '.', 'JPY')).toEqual({ text: 'x', example: '48' });
    expect(paramsOf('x', '.', 'KWD')).toEqual({ text: 'x', example: '48.500' });
    expect(paramsOf('1.005', '.', 'EUR')).toEqual({ text: '1.005', digits: 2, currency: 'EUR' });
    const long = `${'1'.repeat(61)}x`;
    expect(paramsOf(long, '.', 'EUR')?.text).toBe(`${'1'.repeat(60)}…`);
    expect(paramsOf(`${'1'.repeat(59)}x`, '.', 'EUR')?.text).toBe(`${'1'.repeat(59)}x`);
  });

  it.each([
    ['0', 'JPY', 0],
    ['1234', 'JPY', 1234],
    ['-1234', 'JPY', -1234],
    ['1.234', 'KWD', 1234],
    ['-0.00', 'EUR', 0],
    ['- 48.50', 'EUR', -4850],
    ['48.50 -', 'EUR', -4850],
    ['( 48.50 )', 'EUR', -4850],
    ['-(48.50)', 'EUR', -4850],
    ['+48.50', 'EUR', 4850],
    ['-48.50 DR', 'EUR', -4850],
    ['48.50 cr.', 'EUR', 4850],
    ['48.50 C', 'EUR', 4850],
    ['48.50d', 'EUR', -4850],
    ['€ 48.50', 'EUR', 4850],
    ['48.50€', 'EUR', 4850],
    ['eur48.50', 'EUR', 4850],
    ['48.5', 'EUR', 4850],
    ['48.', 'EUR', 4800],
    ['5:00', 'EUR', null],
    ['4/.50', 'EUR', null],
    ['48.5 0', 'EUR', null],
    ['+-48.50', 'EUR', null],
    ['12.345.67', 'EUR', null],
    ["1'23.00", 'EUR', null],
  ] as const)('are read as %s in %s: %s', (text, currency, amount) => {
    const read = () => parseAmount(text, '.', currency);
    if (amount === null) expect(codeOf(read)).toBe('AMOUNT_UNREADABLE');
    else expect(Object.is(read(), amount)).toBe(true);
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

  it('say in refusals how much is missing', () => {
    const paramsOf = (line: number, parts: Parameters<typeof splitAmount>[1]) => {
      try {
        splitAmount(line, parts);
      } catch (error) {
        return (error as ZubrellError).params;
      }
      return null;
    };
    expect(paramsOf(100, [{ kind: 'fixed', amount: 70 }])).toEqual({
      parts: 70,
      line: 100,
      rest: 30,
    });
    expect(paramsOf(100, [{ kind: 'percent', basisPoints: 9_900 }])).toEqual({ sum: 99 });
    expect(paramsOf(100, [{ kind: 'fixed', amount: 130 }, { kind: 'rest' }])).toEqual({
      fixed: 130,
      line: 100,
    });
    expect(paramsOf(100, [{ kind: 'grossUp', basisPoints: -1 }])).toEqual({ rate: -0.01 });
    expect(paramsOf(100, [{ kind: 'grossUp', basisPoints: 10_000 }])).toEqual({ rate: 100 });
    // What is taken off exactly leaves nothing, and that is no fault.
    expect(splitAmount(100, [{ kind: 'fixed', amount: 100 }, { kind: 'rest' }])).toEqual([100, 0]);
    expect(splitAmount(0, [{ kind: 'fixed', amount: 0 }])).toEqual([0]);
  });

  it('give what is left over to the largest remainders, the earlier first', () => {
    expect(largestRemainder(100, [1, 1, 1])).toEqual([34, 33, 33]);
    expect(largestRemainder(10, [1, 5, 3])).toEqual([1, 6, 3]);
    expect(largestRemainder(-10, [1, 5, 3])).toEqual([-1, -6, -3]);
    expect(largestRemainder(1, [1, 3])).toEqual([0, 1]);
    expect(largestRemainder(-1, [3, 1]).map((share) => Object.is(share, -0))).toEqual([
      false,
      false,
    ]);
    expect(largestRemainder(5, [0, 0])).toEqual([0, 0]);
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
