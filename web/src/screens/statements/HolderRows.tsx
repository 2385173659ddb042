import type { Statement } from '@zubrell/contract/statements';
import type { HolderSpending } from '@zubrell/core/closing/cards';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { statementsApi } from '../../api/statements.ts';
import { useBooks } from '../../app/useBooks.ts';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { HolderDialog } from './HolderDialog.tsx';

/** What each cardholder spent and got back within a statement. */
export function HolderRows({ statement }: { readonly statement: Statement }) {
  const { booksId, amount, holderName, setup } = useBooks();
  const [named, setNamed] = useState<string | null>(null);
  const { bankAccountId, to } = statement;
  const { data, error } = statementsApi.useStatementHoldersQuery({ booksId, bankAccountId, to });
  const mayName = setup.books.role !== 'reviewer';
  const nameOf = ({ cardholder }: HolderSpending) =>
    cardholder === null ? t`No cardholder` : holderName(bankAccountId, cardholder);
  const columns: readonly Column<HolderSpending>[] = [
    {
      id: 'holder',
      head: t`Cardholder`,
      className: 'wide',
      cell: (row) => (
        <>
          {nameOf(row)}
          {row.cardholder !== null && nameOf(row) !== row.cardholder && (
            <span className="quiet"> {row.cardholder}</span>
          )}
          {row.cardholder !== null && mayName && (
            <Button
              variant="link"
              aria-label={t`Change name of cardholder ${row.cardholder}`}
              onClick={() => setNamed(row.cardholder)}
            >
              {t`Change name`}
            </Button>
          )}
        </>
      ),
      sortBy: nameOf,
    },
    {
      id: 'count',
      head: t`Lines`,
      className: 'num',
      cell: ({ count }) => count,
      sortBy: ({ count }) => count,
    },
    {
      id: 'spent',
      head: t`Paid out`,
      className: 'num',
      cell: ({ spent }) => amount(spent),
      sortBy: ({ spent }) => spent,
    },
    {
      id: 'refunded',
      head: t`Paid in`,
      className: 'num',
      cell: ({ refunded }) => amount(refunded),
      sortBy: ({ refunded }) => refunded,
    },
    {
      id: 'net',
      head: t`Net`,
      className: 'num',
      cell: ({ spent, refunded }) => amount(spent - refunded),
      sortBy: ({ spent, refunded }) => spent - refunded,
    },
  ];
  if (error && !data) return <ErrorNote error={error} />;
  if (!data) return <Waiting what={t`the cardholders`} />;
  return (
    <>
      <DataTable
        className="statement-rows"
        rows={data.holders}
        columns={columns}
        rowKey={({ cardholder }) => cardholder ?? ''}
      />
      {named !== null && (
        <HolderDialog
          bankAccountId={bankAccountId}
          cardholder={named}
          onClose={() => setNamed(null)}
        />
      )}
    </>
  );
}
