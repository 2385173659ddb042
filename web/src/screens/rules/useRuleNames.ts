import type { RuleNames } from '@zubrell/core/propose/rule/ruleWords';
import { useMemo } from 'react';
import { useBooks } from '../../app/useBooks.ts';

/** Names what rules refer to, as these books call it. */
export function useRuleNames(): RuleNames & { readonly payee: (id: string) => string } {
  const { accountName, payeeName, setup, amount } = useBooks();
  return useMemo(() => {
    const banks = new Map(setup.bankAccounts.map(({ id, name }) => [id, name]));
    return {
      account: accountName,
      payee: payeeName,
      bankAccount: (id) => banks.get(id) ?? '—',
      amount: (minor) => amount(minor),
    };
  }, [accountName, payeeName, setup, amount]);
}
