import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sumMinor } from '../money/minor.ts';
import { directionOf, documentAmount, documentCoding, offsetAmounts } from './documents.ts';

const line = (amount: number, tax: number | null = null) => ({
  text: 'Clay',
  accountId: '5020',
  taxCodeId: '20',
  amount,
  tax,
});

describe('a document', () => {
  it('is settled by money out or in, and a credit note the other way', () => {
    expect(directionOf('bill', 'payables')).toBe(-1);
    expect(directionOf('invoice', 'receivables')).toBe(1);
    expect(directionOf('creditNote', 'payables')).toBe(1);
    expect(directionOf('credit', 'receivables')).toBe(-1);
  });

  it('comes to its lines less discounts, signed like the line that settles it', () => {
    const bill = { kind: 'bill', side: 'payables', lines: [line(4_850), line(-200)] } as const;
    expect(documentAmount(bill)).toBe(-4_650);
    const { parts } = documentCoding({ ...bill, payeeId: 'clay', lines: [line(4_850, 808)] });
    expect(parts).toEqual([
      { accountId: '5020', taxCodeId: '20', share: { kind: 'fixed', amount: -4_850 }, tax: -808 },
    ]);
  });
});

describe('documents set against each other', () => {
  it('settle each other as far as they reach, the first ones first', () => {
    expect(offsetAmounts([640, 212, -700])).toEqual([640, 60, -700]);
    expect(offsetAmounts([640, 212])).toEqual([0, 0]);
  });

  it('always come to nil, and none beyond what is open', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -1e9, max: 1e9 }), { maxLength: 20 }), (open) => {
        const settled = offsetAmounts(open);
        expect(sumMinor(settled)).toBe(0);
        for (const [at, amount] of settled.entries()) {
          const whole = open[at] ?? 0;
          expect(Math.abs(amount)).toBeLessThanOrEqual(Math.abs(whole));
          if (amount !== 0) expect(Math.sign(amount)).toBe(Math.sign(whole));
        }
        const left = open.map((whole, at) => whole - (settled[at] ?? 0));
        expect(left.every((each) => each >= 0) || left.every((each) => each <= 0)).toBe(true);
      }),
    );
  });
});
