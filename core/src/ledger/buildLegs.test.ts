import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ZubrellError } from '../errors.ts';
import { sumMinor } from '../money/minor.ts';
import { accountRoles } from './accountRoles.ts';
import { buildLegs, type LegLookups, type TaxInForce } from './buildLegs.ts';
import type { Coding } from './coding.ts';
import type { AccountType } from './kinds.ts';
import { starterAccounts, starterTaxCodes } from './starterBooks.ts';
import { taxSide } from './taxSide.ts';

const full: TaxInForce = {
  id: '20',
  name: '20 %',
  kind: 'standard',
  use: 'both',
  rate: 2000,
  inputAccountId: 'input',
  outputAccountId: 'output',
  recoverable: 10_000,
};
const codes: Readonly<Record<string, TaxInForce>> = {
  '20': full,
  half: { ...full, id: 'half', recoverable: 5_000 },
  exempt: { ...full, id: 'exempt', kind: 'exempt', rate: 0 },
  reverse: { ...full, id: 'reverse', kind: 'reverseCharge' },
  outside: { ...full, id: 'outside', kind: 'outside', rate: 0 },
  zero: { ...full, id: 'zero', kind: 'zero', rate: 0, inputAccountId: null },
  unset: { ...full, id: 'unset', inputAccountId: null },
};
const lookups: LegLookups = {
  taxSide: (id, use) => {
    const type = id.split('-')[0] as AccountType;
    return taxSide({ type, role: null, isBank: id.startsWith('asset-bank'), tax: 'byType' }, use);
  },
  accountName: (id) => id,
  tax: (id) => codes[id] ?? full,
  isBank: (id) => id.startsWith('asset-bank'),
};

function coding(accountId: string, taxCodeId: string | null, tax: number | null = null): Coding {
  return {
    payeeId: null,
    parts: [{ accountId, taxCodeId, share: { kind: 'rest' }, tax }],
    note: null,
  };
}

function legs(line: number, accountId: string, taxCodeId: string | null, tax?: number) {
  return Object.fromEntries(
    buildLegs(line, 'bank', coding(accountId, taxCodeId, tax ?? null), lookups).map((leg) => [
      leg.accountId,
      leg.amount,
    ]),
  );
}

describe('the legs of a posted line', () => {
  it('take tax on the side of the account, whatever the sign', () => {
    expect(legs(-4850, 'expense-1', '20')).toEqual({ bank: -4850, 'expense-1': 4042, input: 808 });
    // A supplier's refund lowers input tax.
    expect(legs(4850, 'expense-1', '20')).toEqual({ bank: 4850, 'expense-1': -4042, input: -808 });
    expect(legs(6000, 'income-1', '20')).toEqual({ bank: 6000, 'income-1': -5000, output: -1000 });
  });

  it('leave what does not come back with the cost, and know every kind of code', () => {
    expect(legs(-1200, 'expense-1', 'half')).toEqual({
      bank: -1200,
      'expense-1': 1100,
      input: 100,
    });
    expect(legs(-1200, 'expense-1', 'exempt')).toEqual({ bank: -1200, 'expense-1': 1200 });
    expect(legs(-1000, 'expense-1', 'reverse')).toEqual({
      bank: -1000,
      'expense-1': 1000,
      input: 200,
      output: -200,
    });
  });

  it('allow a few cents of correction, no more', () => {
    expect(legs(-4850, 'expense-1', '20', -810)).toMatchObject({ input: 810 });
    expect(() => legs(-4850, 'expense-1', '20', -900)).toThrow('A few cents');
    expect(() => legs(-4850, 'expense-1', 'unset')).toThrow('no account for its tax');
  });

  it('always add up to zero', () => {
    const part = fc.record({
      accountId: fc.constantFrom('expense-1', 'income-2', 'asset-3'),
      taxCodeId: fc.constantFrom(null, '20', 'half', 'exempt', 'reverse'),
      share: fc.integer({ min: 0, max: 10_000 }),
    });
    fc.assert(
      fc.property(
        fc.integer({ min: -1e9, max: 1e9 }),
        fc.array(part, { minLength: 1, maxLength: 5 }),
        (line, parts) => {
          const shares = parts.map(({ share }) => share);
          const rest = 10_000 - sumMinor(shares.slice(1));
          fc.pre(rest >= 0);
          const made = buildLegs(
            line,
            'bank',
            {
              payeeId: null,
              note: null,
              parts: parts.map(({ accountId, taxCodeId, share }, index) => ({
                accountId,
                taxCodeId,
                tax: null,
                share: { kind: 'percent', basisPoints: index === 0 ? rest : share },
              })),
            },
            lookups,
          );
          expect(sumMinor(made.map(({ amount }) => amount))).toBe(0);
          expect(made[0]).toMatchObject({ accountId: 'bank', amount: line, role: 'bank' });
        },
      ),
    );
  });
});

describe('what else a leg carries, and what is refused', () => {
  const paramsOf = (work: () => unknown) => {
    try {
      work();
    } catch (error) {
      if (error instanceof ZubrellError) return { error: error.code, ...error.params };
      throw error;
    }
    return null;
  };
  const withPart = (part: Partial<Coding['parts'][number]>): Coding => {
    const whole = coding('expense-1', null);
    return { ...whole, parts: whole.parts.map((each) => ({ ...each, ...part })) };
  };

  it('is the cost centre and job of its part, and whether the job’s customer pays', () => {
    const objects = { costCentreId: 'centre', jobId: 'job', isRecharged: true };
    const [bank, base] = buildLegs(-500, 'bank', withPart(objects), lookups);
    expect(base).toMatchObject({ ...objects, role: 'base' });
    expect(bank).toEqual({ accountId: 'bank', amount: -500, taxCodeId: null, role: 'bank' });
    const withoutJob = buildLegs(-500, 'bank', withPart({ isRecharged: true }), lookups);
    expect(withoutJob[1]).toMatchObject({ costCentreId: null, jobId: null, isRecharged: false });
    const unpaid = buildLegs(-500, 'bank', withPart({ jobId: 'job' }), lookups);
    expect(unpaid[1]).toMatchObject({ jobId: 'job', isRecharged: false });
  });

  it('is the side of a bank account where money moved there, and what the first leg is said to be', () => {
    const [own, other] = buildLegs(-500, 'bank', coding('asset-bank-2', null), lookups);
    expect([own?.role, other?.role]).toEqual(['bank', 'bank']);
    const owed = buildLegs(-500, 'owed', coding('expense-1', '20'), {
      ...lookups,
      role: 'control',
    });
    expect(owed.map(({ role }) => role)).toEqual(['control', 'base', 'tax']);
    expect(owed[2]).toMatchObject({ accountId: 'input', taxCodeId: '20' });
  });

  it('names what a refusal is about', () => {
    expect(paramsOf(() => legs(-500, 'liability-1', '20'))).toEqual({
      error: 'TAX_NOT_HERE',
      account: 'liability-1',
      code: '20 %',
    });
    expect(paramsOf(() => legs(-4850, 'expense-1', '20', -814))).toEqual({
      error: 'TAX_CORRECTION',
      tax: 814,
      expected: 808,
      rate: 20,
    });
    expect(legs(-4850, 'expense-1', '20', -813)).toMatchObject({ input: 813 });
    expect(legs(-4850, 'expense-1', '20', -803)).toMatchObject({ input: 803 });
    expect(paramsOf(() => legs(-500, 'expense-1', 'unset'))).toEqual({
      error: 'TAX_ACCOUNT_MISSING',
      name: '20 %',
    });
  });

  it('is no tax where the code is outside of it, on whatever account', () => {
    expect(legs(-500, 'liability-1', 'outside')).toEqual({ bank: -500, 'liability-1': 500 });
    expect(legs(600, 'income-1', 'reverse')).toEqual({ bank: 600, 'income-1': -600 });
    expect(legs(-500, 'expense-1', 'zero')).toEqual({ bank: -500, 'expense-1': 500 });
  });
});

describe('starter books', () => {
  it('have each account once, below a parent that is there, and every role once', () => {
    const known = new Set(starterAccounts.map(({ code }) => code));
    expect(known.size).toBe(starterAccounts.length);
    for (const { parent } of starterAccounts) if (parent) expect(known).toContain(parent);
    const roles = starterAccounts.flatMap(({ role }) => role ?? []);
    // The account for clients' money comes with the first bank account that holds any.
    expect([...roles, 'clientMoney'].sort()).toEqual([...accountRoles].sort());
    const names = Object.values(starterTaxCodes).map((codes) => codes.map(({ name }) => name));
    expect(names.map((set) => set.includes('Reverse charge 20 %'))).toEqual([true, true, false]);
    expect(names.every((set) => set.includes('Outside'))).toBe(true);
  });
});
