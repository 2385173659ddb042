import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../dates/calendarDate.ts';
import { type Leg, legRoles } from '../ledger/buildLegs.ts';
import { sumOf } from '../money/minor.ts';
import { settlementEntries } from './settlementEntries.ts';
import { type SettledTarget, settlePairing } from './settlePairing.ts';

const accounts = { bank: 'bank', receivables: 'owed', payables: 'owing' };
let made = 0;
const target = (amount: number, change: Partial<SettledTarget> = {}): SettledTarget => {
  made += 1;
  return {
    id: `t${made}`,
    documentId: `t${made}`,
    kind: amount > 0 ? 'invoice' : 'bill',
    side: amount > 0 ? 'receivables' : 'payables',
    amount,
    date: '2026-03-01',
    dueDate: null,
    payeeId: 'p',
    ...change,
  };
};
const entry = (kind: SettledTarget['kind'], amount: number) =>
  target(amount, { kind, side: null, documentId: null });
const paid = (...amounts: number[]) =>
  amounts.map((amount, at) => ({ date: addDays('2026-03-20', at), amount }));
const leg = (accountId: string, amount: number, role: Leg['role'] = 'base'): Leg => ({
  accountId,
  amount,
  taxCodeId: null,
  role,
});
const coded = (...legs: Leg[]) => ({ kind: 'code', legs }) as const;
const shown = (entries: ReturnType<typeof settlementEntries>) =>
  entries.map(({ date, legs }) => [
    date.slice(8),
    ...legs.map(({ accountId, amount }) => `${accountId} ${amount}`),
  ]);

describe('a settlement', () => {
  it('makes no entry where only entries are paired', () => {
    expect(settlePairing(paid(-4_850), [entry('cheque', -4_850)], null, accounts)).toEqual({
      entries: [],
      allocations: [],
      credit: null,
    });
  });

  it('leaves the rest of the last document open, or what is too much as credit', () => {
    const early = target(10_000, { dueDate: '2026-03-10' });
    const late = target(20_000, { dueDate: '2026-04-10' });
    const part = settlePairing(paid(25_000), [early, late], { kind: 'partPaid' }, accounts);
    expect(part.allocations.map(({ amount }) => amount)).toEqual([10_000, 15_000]);
    const over = settlePairing(
      paid(31_000),
      [early, late],
      { kind: 'onAccount', payeeId: null },
      accounts,
    );
    expect(over.credit).toEqual({ side: 'receivables', payeeId: 'p', amount: -1_000 });
    expect(shown(over.entries)).toEqual([['20', 'bank 31000', 'owed -31000']]);
  });

  it('keeps what is paid in advance as credit, with nothing to pay', () => {
    const advance = (amount: number, payeeId: string | null) =>
      settlePairing(paid(amount), [], { kind: 'onAccount', payeeId }, accounts);
    expect(advance(5_000, 'p').credit).toEqual({
      side: 'receivables',
      payeeId: 'p',
      amount: -5_000,
    });
    expect(advance(-5_000, 'p')).toMatchObject({
      credit: { side: 'payables', payeeId: 'p', amount: 5_000 },
      allocations: [],
    });
    expect(() => advance(5_000, null)).toThrow('Choose the payee');
  });

  it('refuses a difference that nobody answered for, and answers that do not fit', () => {
    const invoice = target(10_000);
    const settle =
      (amount: number, difference: Parameters<typeof settlePairing>[2], of = [invoice]) =>
      () =>
        settlePairing(paid(amount), of, difference, accounts);
    expect(settle(9_000, null)).toThrow('doesn’t balance');
    expect(settle(10_000, { kind: 'partPaid' })).toThrow('no difference');
    expect(settle(11_000, { kind: 'partPaid' })).toThrow('left open in part');
    expect(settle(9_000, { kind: 'onAccount', payeeId: null })).toThrow('stay as credit');
    const back = target(-5_000, { kind: 'creditNote', side: 'receivables' });
    expect(settle(-6_000, { kind: 'onAccount', payeeId: null }, [back])).toThrow('stay as credit');
  });

  it('takes no money that goes the other way, but for what makes up a whole', () => {
    const rest = coded(leg('freight', 20_000));
    const settle = (amount: number, of: SettledTarget[]) => () =>
      settlePairing(paid(amount), of, rest, accounts);
    expect(settle(-10_000, [target(10_000)])).toThrow('goes the other way');
    expect(settle(-10_000, [entry('receipt', 10_000)])).toThrow('goes the other way');
    expect(settle(-10_000, [entry('payment', -15_000), target(-15_000)])).toThrow(
      'goes the other way',
    );
    const note = target(-4_000, { kind: 'creditNote', side: 'receivables' });
    expect(settlePairing(paid(6_000), [target(10_000), note], null, accounts).entries).toHaveLength(
      1,
    );
  });

  it('reopens a document whose payment came back', () => {
    const back = target(-26_800, { kind: 'returned', side: 'receivables', documentId: 'invoice' });
    const { entries, allocations } = settlePairing(paid(-26_800), [back], null, accounts);
    expect(allocations).toEqual([{ documentId: 'invoice', amount: -26_800 }]);
    expect(shown(entries)).toEqual([['20', 'bank -26800', 'owed 26800']]);
  });

  it('gives two payments of one document that come back together back to it as one', () => {
    const targets = [-6_000, -4_000].map((amount) =>
      target(amount, { kind: 'returned', side: 'receivables', documentId: 'invoice' }),
    );
    expect(settlePairing(paid(-10_000), targets, null, accounts).allocations).toEqual([
      { documentId: 'invoice', amount: -10_000 },
    ]);
  });
});

describe('the entries of a settlement', () => {
  const of = (...args: Parameters<typeof settlementEntries>) => shown(settlementEntries(...args));
  const owed = (amount: number) => leg('owed', amount, 'control');

  it.each([
    [
      'date each part by its own line, and what was kept back by the last',
      of(paid(5_000, 4_860), [], [owed(-10_000), leg('charges', 140)], 'bank'),
      [
        ['20', 'bank 5000', 'owed -5000'],
        ['21', 'bank 4860', 'owed -5000', 'charges 140'],
      ],
    ],
    [
      'take the line that an entry is out first',
      of(paid(3_000, 7_000), [{ amount: 3_000 }], [owed(-7_000)], 'bank'),
      [['21', 'bank 7000', 'owed -7000']],
    ],
    [
      'take entries of other amounts off the earliest lines',
      of(paid(3_000, 7_000), [{ amount: 6_000 }], [owed(-4_000)], 'bank'),
      [['21', 'bank 4000', 'owed -4000']],
    ],
    [
      'pass through what is owed where lines go both ways',
      of(paid(10_000, -2_000), [], [owed(-8_000)], 'bank'),
      [
        ['20', 'bank 10000', 'owed -10000'],
        ['21', 'bank -2000', 'owed 2000'],
      ],
    ],
    [
      'put legs of one account together',
      of(paid(10_000), [], [owed(-4_000), owed(-6_000)], 'bank'),
      [['20', 'bank 10000', 'owed -10000']],
    ],
    [
      'need no bank where papers settle each other beside an entry',
      of(paid(500), [{ amount: 500 }], [owed(-300), leg('owing', 300, 'control')], 'bank'),
      [['20', 'owed -300', 'owing 300']],
    ],
    [
      'post all with the last line where nothing is owed',
      of(paid(10_000, -2_000), [{ amount: 7_000 }], [leg('interest', -1_000)], 'bank'),
      [['21', 'bank 1000', 'interest -1000']],
    ],
  ])('%s', (_what, entries, expected) => expect(entries).toEqual(expected));

  const amount = fc.integer({ min: -1e7, max: 1e7 }).filter((each) => each !== 0);
  const amounts = fc.array(amount, { minLength: 1, maxLength: 6 });
  const accountIds = fc.array(fc.constantFrom('owed', 'owing', 'charges', 'interest'), {
    minLength: 1,
    maxLength: 5,
  });

  it('balance, come to what is posted in all, and to what each line is', () => {
    fc.assert(
      fc.property(
        amounts,
        fc.array(amount, { maxLength: 3 }),
        accountIds,
        fc.array(amount, { minLength: 5, maxLength: 5 }),
        (lineAmounts, knownAmounts, ids, sizes) => {
          const lines = paid(...lineAmounts);
          const known = knownAmounts.map((each) => ({ amount: each }));
          const rest = sumOf(known) - sumOf(lines);
          const [first = '', ...others] = ids;
          const roleOf = (id: string) => (id.startsWith('ow') ? 'control' : 'base');
          const parts = others.map((id, at) => leg(id, sizes[at] ?? 1, roleOf(id)));
          const legs = [leg(first, rest - sumOf(parts), roleOf(first)), ...parts];
          const entries = settlementEntries(lines, known, legs, 'bank');
          const sums = new Map<string, number>();
          for (const made of entries) {
            expect(sumOf(made.legs)).toBe(0);
            for (const each of made.legs) {
              expect(each.amount).not.toBe(0);
              expect(legRoles).toContain(each.role);
              sums.set(each.accountId, (sums.get(each.accountId) ?? 0) + each.amount);
            }
          }
          for (const id of new Set(ids)) {
            const wanted = sumOf(legs.filter(({ accountId }) => accountId === id));
            expect(sums.get(id) ?? 0).toBe(wanted);
          }
          const isOwed = legs.some(({ role, amount: size }) => role === 'control' && size !== 0);
          if (isOwed && known.length === 0) {
            const banked = entries.map(({ date, legs: [own] }) => ({ date, amount: own?.amount }));
            expect(banked).toEqual(lines);
          }
        },
      ),
    );
  });
});
