import { describe, expect, it } from 'vitest';
import type { Uses } from '../../app/codingChoices.ts';
import { testBooks, testPayee } from '../../testing/testBooks.ts';
import { emptyCoding } from './rows.ts';
import { withUsual } from './withUsual.ts';

const uses: Uses = {
  payees: [
    {
      payeeId: 'glazeworks',
      entryCount: 9,
      usualAccountId: '5020',
      usualTaxCodeId: 'reverse',
      lastDate: '2026-03-01',
    },
  ],
  accounts: [
    { accountId: '5020', times: 40, lastTaxCodeId: '20' },
    { accountId: '3020', times: 4, lastTaxCodeId: null },
  ],
};

const haulage = {
  ...testPayee,
  id: 'haulage',
  kind: 'relatedBusiness' as const,
  accountId: '2600',
};
const books = {
  takesTax: (accountId: string | null) => accountId !== '3020',
  setup: { ...testBooks(), payees: [haulage] },
};

describe('what is usual', () => {
  it('comes with the payee: account, and the tax of both together', () => {
    expect(withUsual({ ...emptyCoding, payeeId: 'glazeworks' }, uses, books)).toMatchObject({
      accountId: '5020',
      taxCodeId: 'reverse',
    });
  });

  it('is the tax of the account for other payees and accounts', () => {
    expect(withUsual({ ...emptyCoding, accountId: '5020' }, uses, books).taxCodeId).toBe('20');
    const drawn = { ...emptyCoding, payeeId: 'glazeworks', accountId: '3020' };
    expect(withUsual(drawn, uses, books)).toEqual(drawn);
  });

  it('is no tax on an account that takes none, whatever was filled in', () => {
    const drawn = { ...emptyCoding, accountId: '3020', taxCodeId: '20' };
    expect(withUsual(drawn, uses, books).taxCodeId).toBeNull();
  });

  it('never overwrites what is filled in', () => {
    const chosen = { ...emptyCoding, payeeId: 'glazeworks', accountId: '5020', taxCodeId: '0' };
    expect(withUsual(chosen, uses, books)).toEqual(chosen);
    expect(withUsual(emptyCoding, uses, books)).toEqual(emptyCoding);
  });

  it('is the account between the two for another business of the owner, whatever was filled in', () => {
    const coding = { ...emptyCoding, payeeId: 'haulage', accountId: '5020', taxCodeId: '20' };
    expect(withUsual(coding, uses, books)).toMatchObject({ accountId: '2600', taxCodeId: null });
  });
});
