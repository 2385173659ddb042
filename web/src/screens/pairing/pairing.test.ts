import type { PairingView, PairRow } from '@zubrell/contract/pairing';
import { describe, expect, it } from 'vitest';
import { testBill } from '../../testing/testBill.ts';
import {
  differenceChoices,
  idsOf,
  offerGroups,
  pairLabel,
  rowsById,
  tickedAtFirst,
} from './pairingShown.ts';
import { otherWords, whatWords, whyWords } from './pairingWords.ts';

const row = (id: string, amount: number, change: Partial<PairRow> = {}) =>
  testBill(id, {
    kind: 'invoice',
    date: '2026-02-24',
    dueDate: '2026-03-22',
    amount,
    payeeId: 'nettle',
    payee: 'Nettle and Thread',
    entryId: `e${id}`,
    side: 'receivables',
    ...change,
  });

const view = (change: Partial<PairingView> = {}): PairingView => ({
  lines: [],
  proposed: [],
  isCertain: false,
  sets: [],
  fits: [],
  nearMisses: [],
  found: [],
  together: [],
  cancelling: [],
  seenStep: 1,
  ...change,
});

describe('what lines could be', () => {
  const both = [row('1039', 21_200, { named: ['1039'] }), row('1042', 42_800, { named: ['1042'] })];
  const set = { rows: both, because: 'numbers' as const, likeness: 4, by: 0 };
  const deposit = row('d', 64_000, { kind: 'deposit', side: null, number: null, likeness: 2 });
  const miss = row('1050', 60_400, {
    likeness: 0,
    differences: [{ kind: 'amount', by: 3_600, because: 'transposed' }],
  });
  const shown = view({
    sets: [set],
    fits: [deposit],
    nearMisses: [miss],
    found: [miss, row('9', 1)],
  });

  it('stands in groups by how likely it is, each thing once', () => {
    expect(offerGroups(shown).map(({ heading, offers }) => [heading, offers.map(idsOf)])).toEqual([
      [null, [['1039', '1042']]],
      ['Also fits, less likely', [['d']]],
      ['Found by your search', [['9']]],
      ['Near misses', [['1050']]],
    ]);
  });

  it('is ticked at first where it is proposed, or the only likely one', () => {
    expect(tickedAtFirst(shown)).toEqual(['1039', '1042']);
    expect(tickedAtFirst(view({ fits: [row('1', 5), row('2', 5)] }))).toEqual([]);
    expect(tickedAtFirst(view({ fits: [row('1', 5), row('2', 5)], proposed: ['2'] }))).toEqual([
      '2',
    ]);
    expect(tickedAtFirst(view({ fits: [deposit] }))).toEqual([]);
  });

  it('can’t be ticked where it is paired already', () => {
    const paired = row('1033', 64_000, {
      pairedWith: { date: '2026-02-14', description: 'PENHALLOW' },
    });
    expect([...rowsById(view({ nearMisses: [paired, miss] })).keys()]).toEqual(['1050']);
  });

  it('is said in words: why, what else, and what pairing does', () => {
    expect(whyWords(shown, both, String)).toEqual([
      'The wording names 1039 and 1042, all open, all of Nettle and Thread, and they add up to the line exactly.',
    ]);
    expect(otherWords(shown, both).map(({ row: { id } }) => id)).toEqual(['d', '1050']);
    expect(whatWords(both, '23 Mar')).toBe(
      'Invoices 1039, 1042 are paid on 23 Mar. Nothing is booked twice.',
    );
    expect(whatWords([deposit], '23 Mar')).toContain('stays as it is');
    const back = row('1098', -26_800, { kind: 'returned' });
    expect(whatWords([back], '12 Mar')).toContain('1098 is open again.');
    expect(pairLabel(both)).toBe('Pair with invoices 1039, 1042');
  });
});

describe('a difference', () => {
  const bill = row('2093', -31_420, { kind: 'bill', side: 'payables' });

  it('of a bill may be our mistake, or be left open where less was paid', () => {
    const less = differenceChoices([bill], 180);
    expect(less).toMatchObject({ correctable: [bill], canBePartPaid: true, canBeCredit: false });
    const more = differenceChoices([bill], -180);
    expect(more).toMatchObject({ correctable: [bill], canBePartPaid: false, canBeCredit: true });
  });

  it('never corrects an invoice that went out, nor one among many', () => {
    expect(differenceChoices([row('1042', 10_000)], -140).correctable).toEqual([]);
    const receipts = ['a', 'b', 'c'].map((id) => row(id, 9_000, { kind: 'receipt', side: null }));
    expect(differenceChoices(receipts, -140)).toMatchObject({
      correctable: [],
      canBeCredit: false,
    });
  });
});
