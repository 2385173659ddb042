import { writeChart } from '@zubrell/core/ledger/chartFile';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import { useParams, useSearchParams } from 'react-router';
import { mayMakeAccounts, useBooks } from '../../app/useBooks.ts';
import { useExport } from '../../app/useExport.ts';
import { Dialog } from '../../ui/Dialog.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { AccountTree } from './AccountTree.tsx';
import { chartRows } from './chartRows.ts';
import { EntrySheet } from './EntrySheet.tsx';
import { ImportRecordsDialog } from './ImportRecordsDialog.tsx';
import './ledger.scss';
import { LedgerTabs } from './LedgerTabs.tsx';
import { LockDate } from './LockDate.tsx';
import { NewAccountForm } from './NewAccountForm.tsx';
import { NewBankAccountForm } from './NewBankAccountForm.tsx';
import { Register } from './Register.tsx';

/** The chart of accounts with balances, one account's register, one entry. */
export function LedgerScreen() {
  const { setup } = useBooks();
  const { accountId } = useParams();
  const [params, setParams] = useSearchParams();
  const [making, setMaking] = useState<'account' | 'bankAccount' | null>(null);
  const save = useExport();
  const [isImporting, setIsImporting] = useState(false);
  const entryId = params.get('entry');
  const named = setup.accounts.find(({ id }) => id === accountId);
  // One that was merged is shown as the account it became.
  const account = setup.accounts.find(({ id }) => id === (named?.mergedInto ?? accountId));
  const close = () => setMaking(null);
  return (
    <main className="ledger">
      <header className="list-head">
        <h1>{t`Ledger`}</h1>
        <LedgerTabs current="accounts" />
        <span className="ways">
          <Button
            variant="plain"
            onClick={() =>
              void save(
                'chart',
                writeChart(chartRows(setup)),
                t`Accounts of ${setup.books.name}.csv`,
              )
            }
          >
            {t`Save CSV`}
          </Button>
          {mayMakeAccounts(setup) && (
            <Button variant="plain" onClick={() => setIsImporting(true)}>
              {t`Import accounts`}
            </Button>
          )}
          <Button variant="plain" onClick={() => setMaking('bankAccount')}>
            {t`New bank account`}
          </Button>
          {mayMakeAccounts(setup) && (
            <Button variant="plain" onClick={() => setMaking('account')}>
              {t`New account`}
            </Button>
          )}
        </span>
      </header>
      <aside className="chart" aria-label={t`Chart of accounts`}>
        <AccountTree currentId={accountId ?? null} />
        <LockDate />
      </aside>
      {account ? (
        <Register
          key={account.id}
          account={account}
          entryId={entryId}
          onEntry={(id) => setParams(id === null ? {} : { entry: id })}
        />
      ) : (
        <EmptyState title={t`Choose an account`}>
          <p>{t`Its register shows every entry with the balance after it.`}</p>
        </EmptyState>
      )}
      {entryId !== null && account && (
        <EntrySheet key={entryId} entryId={entryId} onClose={() => setParams({})} />
      )}
      {isImporting && <ImportRecordsDialog kind="accounts" onClose={() => setIsImporting(false)} />}
      {making !== null && (
        <Dialog title={making === 'account' ? t`New account` : t`New bank account`} onClose={close}>
          <Modal.Body>
            {making === 'account' ? (
              <NewAccountForm onMade={close} />
            ) : (
              <NewBankAccountForm
                suggestion={{ number: null, kind: null, bank: null }}
                onMade={close}
              />
            )}
          </Modal.Body>
        </Dialog>
      )}
    </main>
  );
}
