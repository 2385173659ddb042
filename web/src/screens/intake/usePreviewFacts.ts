import { skipToken } from '@reduxjs/toolkit/query';
import type { BankAccount } from '@zubrell/contract/books';
import type { BankStatement, Problem } from '@zubrell/core/formats/bankFile';
import { isSameAccountNumber } from '@zubrell/core/intake/isSameAccountNumber';
import { sightStatement } from '@zubrell/core/intake/sightStatement';
import {
  closingBalance,
  openingBalance,
  statementGap,
} from '@zubrell/core/intake/statementBalances';
import { useMemo } from 'react';
import { api } from '../../app/api.ts';
import { useBooks } from '../../app/useBooks.ts';

/** What a line of a file is to the lines here. */
export type LineState = 'new' | 'already' | 'doubtful';

/** What there is to know of a statement before it is kept in a bank account. */
export interface PreviewFacts {
  /** For each line whether it is new, here already or doubtful; null while that is not known. */
  readonly states: readonly LineState[] | null;
  readonly hereCount: number;
  readonly doubtfulCount: number;
  readonly paidOut: number;
  readonly paidIn: number;
  readonly refused: readonly Problem[];
  readonly gap: number | null;
  /** The opening balance it would post, or null. */
  readonly opening: { readonly date: string; readonly amount: number } | null;
  readonly isOtherNumber: boolean;
  readonly isOtherCurrency: boolean;
}

/** Works out what a statement would bring to the chosen bank account. */
export function usePreviewFacts(
  statement: BankStatement,
  problems: readonly Problem[],
  bankAccount: BankAccount | null,
): PreviewFacts {
  const { booksId, setup } = useBooks();
  const dates = statement.lines.map((line) => line.date).sort();
  const [from = '', to = from] = [dates[0], dates.at(-1)];
  const { data: known } = api.useKnownLinesQuery(
    bankAccount
      ? {
          booksId,
          bankAccountId: bankAccount.id,
          from,
          to,
          closingDate: closingBalance(statement)?.date ?? to,
        }
      : skipToken,
  );
  return useMemo(() => {
    const states = known
      ? sightStatement(known.lines, statement, known.standing).map(({ kind }) => kind)
      : null;
    const count = (state: LineState) => states?.filter((each) => each === state).length ?? 0;
    const sum = (wanted: (amount: number) => boolean) =>
      statement.lines.reduce((total, { amount }) => total + (wanted(amount) ? amount : 0), 0);
    const canOpen =
      bankAccount !== null &&
      bankAccount.opening === null &&
      (bankAccount.firstDate ?? from) >= from;
    return {
      states,
      hereCount: count('already'),
      doubtfulCount: count('doubtful'),
      paidOut: sum((amount) => amount < 0),
      paidIn: sum((amount) => amount > 0),
      refused: problems.filter(({ severity }) => severity !== 'notice'),
      gap: statementGap(statement),
      opening: canOpen ? openingBalance(statement) : null,
      isOtherNumber: !isSameAccountNumber(statement.account, bankAccount?.number ?? null),
      isOtherCurrency: statement.currency !== null && statement.currency !== setup.books.currency,
    };
  }, [known, statement, problems, bankAccount, from, setup.books.currency]);
}
