import { skipToken } from '@reduxjs/toolkit/query';
import type { BankAccount } from '@zubrell/contract/books';
import { closingBalance } from '@zubrell/core/intake/statementBalances';
import type { Remote } from 'comlink';
import { useEffect, useState } from 'react';
import { intakeApi } from '../../api/intake.ts';
import { useBooks } from '../../app/useBooks.ts';
import type { Comparison, FileReading, StatementSummary } from '../../workers/fileReading.ts';

/** Works out what a statement would bring to the chosen bank account; null until that is known. */
export function useComparison(
  reading: Remote<FileReading> | null,
  index: number,
  statement: StatementSummary,
  bankAccount: BankAccount | null,
): Comparison | null {
  const { booksId, setup } = useBooks();
  const [comparison, setComparison] = useState<Comparison | null>(null);
  const { first, last } = statement.lines;
  const { data, isFetching } = intakeApi.useKnownLinesQuery(
    bankAccount && first && last
      ? {
          booksId,
          bankAccountId: bankAccount.id,
          from: first,
          to: last,
          closingDate: closingBalance(statement)?.date ?? last,
        }
      : skipToken,
  );
  const known = bankAccount === null ? null : (data ?? null);
  const isWaiting = bankAccount !== null && (isFetching || known === null);
  const openingDate = bankAccount?.opening?.date ?? null;
  const closedTo = later(bankAccount?.closedTo ?? null, setup.books.lockDate);

  // biome-ignore lint/correctness/useExhaustiveDependencies: another reading of the file is another statement
  useEffect(() => {
    if (reading === null || isWaiting) return;
    let isCurrent = true;
    void reading.compare(index, known, { openingDate, closedTo }).then((found) => {
      if (isCurrent) setComparison(found);
    });
    return () => {
      isCurrent = false;
    };
  }, [reading, index, statement, known, isWaiting, openingDate, closedTo]);
  return comparison;
}

function later(a: string | null, b: string | null): string | null {
  if (a === null || b === null) return a ?? b;
  return a > b ? a : b;
}
