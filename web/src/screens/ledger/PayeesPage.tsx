import type { Payee, PayeeUse } from '@zubrell/contract/books';
import { plainWording } from '@zubrell/core/text/plainWording';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Table } from 'react-bootstrap';
import { booksApi } from '../../api/books.ts';
import { useBooks } from '../../app/useBooks.ts';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { HideUnused } from './HideUnused.tsx';
import './ledger.scss';
import { LedgerTabs } from './LedgerTabs.tsx';
import { PayeeRow } from './PayeeRow.tsx';

/** Every payee with its usual account: found, renamed, put together, switched off. */
export function PayeesPage() {
  const { booksId, setup } = useBooks();
  const { data } = booksApi.usePayeeUsesQuery(booksId, { refetchOnMountOrArgChange: true });
  const [typed, setTyped] = useState('');
  const uses = new Map((data?.uses ?? []).map((use) => [use.payeeId, use]));
  const [isHiding, setIsHiding] = useState(false);
  const wanted = plainWording(typed);
  const shown = setup.payees.filter(
    ({ id, name, mergedInto }) =>
      mergedInto === null && plainWording(name).includes(wanted) && !(isHiding && !uses.has(id)),
  );
  return (
    <main className="page payees">
      <header className="section-head">
        <h1>{t`Ledger`}</h1>
        <LedgerTabs current="payees" />
        <input
          type="search"
          className="form-control"
          aria-label={t`Search payees`}
          placeholder={t`Part of a name`}
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
        />
        <HideUnused isHiding={isHiding} onChange={setIsHiding} />
      </header>
      {setup.payees.length === 0 ? (
        <EmptyState title={t`No payee yet`}>
          <p>{t`Payees are created as you code lines on the Desk.`}</p>
        </EmptyState>
      ) : (
        <div className="sheet">
          <Table>
            <thead>
              <tr>
                <th>{t`Name`}</th>
                <th>{t`Kind`}</th>
                <th>{t`Terms, accounts`}</th>
                <th>{t`Usual account`}</th>
                <th className="num">{t`Entries`}</th>
                <th>{t`Last`}</th>
                <th>{t`In use`}</th>
                <th>{t`Merge into`}</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((payee: Payee) => (
                <PayeeRow key={payee.id} payee={payee} use={uses.get(payee.id) ?? unused(payee)} />
              ))}
            </tbody>
          </Table>
        </div>
      )}
    </main>
  );
}

function unused({ id }: Payee): PayeeUse {
  return {
    payeeId: id,
    entryCount: 0,
    usualAccountId: null,
    usualTaxCodeId: null,
    lastDate: null,
  };
}
