import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sumMinor } from '../money/minor.ts';
import { rateOn } from './rateOn.ts';
import { nextPeriod, type TaxRow, taxBoxes, taxDue, taxUnexplained } from './taxReturn.ts';

const none = { net: 0, tax: 0 };
const row = (taxCodeId: string, side: TaxRow['side'], net: number, tax: number): TaxRow => ({
  taxCodeId,
  side,
  net,
  tax,
  count: 1,
  late: none,
});
const boxesOf = (id: string) => ({
  outputNet: id === 'exempt' ? null : '10 Sales',
  outputTax: '2 Tax on sales',
  inputNet: '11 Purchases',
  inputTax: '3 Input tax',
});

describe('a tax return', () => {
  const rows = [
    row('20%', 'output', 50_000, 10_000),
    row('20%', 'input', 12_500, 2_500),
    row('reverse', 'input', 10_000, 2_000),
    row('reverse', 'output', 0, 2_000),
    row('exempt', 'output', 7_000, 0),
  ];

  it('adds up boxes in the order of their numbers, those that no box counts last', () => {
    const boxes = taxBoxes(rows, boxesOf).map(({ box, amount }) => [box, amount]);
    expect(boxes).toEqual([
      ['2 Tax on sales', 12_000],
      ['3 Input tax', 4_500],
      ['10 Sales', 50_000],
      ['11 Purchases', 22_500],
      [null, 7_000],
    ]);
  });

  it('comes to output tax without input tax, so that reverse charge leaves nothing', () => {
    expect(taxDue(rows)).toEqual({ output: 12_000, input: 4_500, due: 7_500 });
    expect(taxDue(rows.filter(({ taxCodeId }) => taxCodeId === 'reverse')).due).toBe(0);
  });

  it('has each figure in exactly one box, whatever the rows', () => {
    const rowOf = fc
      .tuple(
        fc.constantFrom('20%', 'exempt'),
        fc.constantFrom('input', 'output'),
        fc.integer(),
        fc.integer(),
      )
      .map(([id, side, net, tax]) => row(id, side as TaxRow['side'], net, tax));
    fc.assert(
      fc.property(fc.array(rowOf), (any) => {
        const inBoxes = sumMinor(taxBoxes(any, boxesOf).map(({ amount }) => amount));
        expect(inBoxes).toBe(sumMinor(any.flatMap(({ net, tax }) => [net, tax])));
      }),
    );
  });

  it('is off by what the tax accounts have and nothing else explains', () => {
    const agreement = { balance: -9_000, own: -7_500, earlier: -4_000, others: 2_500 };
    expect(taxUnexplained(agreement)).toBe(0);
    expect(taxUnexplained({ ...agreement, balance: -9_100 })).toBe(-100);
  });

  it('is followed by a period as long as its own', () => {
    expect(nextPeriod({ from: '2026-01-01', to: '2026-01-31' })).toEqual({
      from: '2026-02-01',
      to: '2026-02-28',
    });
    expect(nextPeriod({ from: '2026-10-01', to: '2026-12-31' })).toEqual({
      from: '2027-01-01',
      to: '2027-03-31',
    });
  });
});

it('a rate holds from its day on, until the next one', () => {
  const rates = [
    { fromDate: '2026-07-01', rate: 1_600 },
    { fromDate: null, rate: 1_900 },
    { fromDate: '2027-01-01', rate: 1_900 },
  ];
  const on = ['2026-06-30', '2026-07-01', '2026-12-31', '2027-01-01'].map((day) =>
    rateOn(rates, day),
  );
  expect(on).toEqual([1_900, 1_600, 1_600, 1_900]);
  expect(rateOn([{ fromDate: '2026-07-01', rate: 1 }], '2026-06-30')).toBeNull();
});
