import type { TaxCode } from '@zubrell/contract/books';
import { rateOn } from '@zubrell/core/tax/rateOn';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { taxApi } from '../../api/tax.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { LedgerTabs } from './LedgerTabs.tsx';
import './ledger.scss';
import { TaxCodeDialog } from './TaxCodeDialog.tsx';
import { hasRates, kindNames, percentText, useNames } from './taxCodeDraft.ts';

/** The tax codes of the books: what each does, its rate today, and the boxes of the return that it counts in. */
export function TaxCodesPage() {
  const { booksId, setup, accountName } = useBooks();
  const { told } = useUndo();
  const today = useToday();
  const [change, { isLoading }] = taxApi.useChangeTaxCodeMutation();
  const [open, setOpen] = useState<TaxCode | 'new' | null>(null);
  const mayChange = setup.books.role !== 'reviewer';
  const columns: readonly Column<TaxCode>[] = [
    {
      id: 'name',
      head: t`Tax code`,
      cell: (code) =>
        mayChange ? (
          <Button variant="link" onClick={() => setOpen(code)}>
            {code.name}
          </Button>
        ) : (
          code.name
        ),
    },
    { id: 'kind', head: t`Kind`, cell: ({ kind }) => kindNames[kind] },
    { id: 'use', head: t`For`, cell: ({ use }) => useNames[use] },
    {
      id: 'rate',
      head: t`Rate today`,
      className: 'num',
      cell: ({ kind, rates }) => {
        const rate = rateOn(rates, today);
        if (!hasRates(kind)) return <span className="quiet">—</span>;
        return rate === null ? (
          <span className="doubt">{t`none yet`}</span>
        ) : (
          `${percentText(rate)} %`
        );
      },
    },
    {
      id: 'recoverable',
      head: t`Recoverable`,
      className: 'num',
      cell: ({ kind, recoverable }) =>
        hasRates(kind) ? `${percentText(recoverable)} %` : <span className="quiet">—</span>,
    },
    {
      id: 'accounts',
      head: t`Input and output account`,
      className: 'accounts',
      cell: ({ kind, inputAccountId, outputAccountId }) =>
        hasRates(kind) ? (
          <>
            {accountName(inputAccountId) || t`None`}
            <span className="d-block">{accountName(outputAccountId) || t`None`}</span>
          </>
        ) : (
          <span className="quiet">—</span>
        ),
    },
    {
      id: 'boxes',
      head: t`Boxes`,
      className: 'accounts',
      cell: ({ boxes }) => boxesShown(boxes) || <span className="quiet">—</span>,
      title: ({ boxes }) => boxesShown(boxes),
    },
    {
      id: 'ways',
      head: '',
      className: 'ways',
      cell: ({ id, ...code }) =>
        mayChange && (
          <Button
            variant="link"
            disabled={isLoading}
            aria-label={code.isOn ? t`Switch off ${code.name}` : t`Switch on ${code.name}`}
            onClick={() =>
              void change({ booksId, taxCodeId: id, ...code, isOn: !code.isOn }).then(told)
            }
          >
            {code.isOn ? t`Switch off` : t`Switch on`}
          </Button>
        ),
    },
  ];
  return (
    <main className="ledger-list">
      <header className="list-head">
        <h1>{t`Ledger`}</h1>
        <LedgerTabs current="tax-codes" />
        {mayChange && (
          <span className="ways">
            <Button variant="main" onClick={() => setOpen('new')}>
              {t`New tax code`}
            </Button>
          </span>
        )}
      </header>
      <section className="list-body" aria-label={t`Tax codes`}>
        <p className="quiet">
          {t`Which side of the tax a posting takes follows from its account: costs and assets take input tax, income takes output tax, refunds included. Owner’s money, wages, loans and transfers between own accounts take none.`}
        </p>
        <DataTable
          className="list-table tax-codes"
          rows={setup.taxCodes}
          columns={columns}
          rowKey={({ id }) => id}
          rowClass={({ isOn }) => (isOn ? '' : 'quiet')}
        />
      </section>
      {open !== null && (
        <TaxCodeDialog code={open === 'new' ? null : open} onClose={() => setOpen(null)} />
      )}
    </main>
  );
}

function boxesShown(boxes: TaxCode['boxes']): string {
  const names = [boxes.outputNet, boxes.outputTax, boxes.inputNet, boxes.inputTax];
  return [...new Set(names.flatMap((name) => name ?? []))].sort().join(', ');
}
