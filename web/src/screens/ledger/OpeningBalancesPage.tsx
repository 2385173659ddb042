import type { Account } from '@zubrell/contract/books';
import { yearFrom } from '@zubrell/core/dates/booksYear';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useMemo, useState } from 'react';
import { Button, Table } from 'react-bootstrap';
import { Link, useNavigate } from 'react-router';
import { ledgerApi } from '../../api/ledger.ts';
import { accountLabel, useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { AmountField } from '../../ui/AmountField.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { tx } from '../../ui/tx.tsx';
import './ledger.scss';
import { LedgerTabs } from './LedgerTabs.tsx';
import {
  type OpeningAmounts,
  openingAccounts,
  openingJournal,
  openingRest,
} from './openingBalances.ts';

const GROUPS: readonly (readonly [Account['type'], string])[] = [
  ['asset', t`What the business owns`],
  ['liability', t`What it owes`],
  ['equity', t`What the owners have put in and kept`],
];

/** Opening balances of all accounts but the bank's, typed as a balance sheet has them and posted as one entry. */
export function OpeningBalancesPage() {
  const { booksId, setup, amount } = useBooks();
  const { told } = useUndo();
  const navigate = useNavigate();
  const today = useToday();
  const [date, setDate] = useState(() => addDays(yearFrom(today, setup.books.yearBegins), -1));
  const [amounts, setAmounts] = useState<OpeningAmounts>({});
  const [enter, { error, isLoading }] = ledgerApi.useEnterByHandMutation();
  const accounts = useMemo(() => openingAccounts(setup), [setup]);
  const equity = setup.accounts.find(({ role }) => role === 'openingEquity');
  const journal =
    equity && date !== '' ? openingJournal(accounts, amounts, { date, equityId: equity.id }) : null;

  async function post(event: FormEvent): Promise<void> {
    event.preventDefault();
    if (journal === null) return;
    const answer = await enter({ booksId, ...journal });
    if (answer.data && told(answer)) navigate(`/books/${booksId}/ledger/entries`);
  }

  return (
    <main className="page">
      <LedgerTabs current="accounts" />
      <form className="opening-balances" onSubmit={(event) => void post(event)}>
        <h1>{t`Opening balances`}</h1>
        <p className="quiet">
          {tx`Copy them from the last balance sheet. Leave out the bank accounts: their opening balances are posted with the first file, or in ${<Link to={`/books/${booksId}/ledger`}>{t`their registers`}</Link>}. Enter open bills and invoices one by one, so that they can be paired with their payments.`}
        </p>
        <DateField label={t`At the end of`} value={date} onChange={setDate} />
        <div className="sheet">
          <Table>
            {GROUPS.map(([type, title]) => (
              <OpeningGroup
                key={type}
                title={title}
                accounts={accounts.filter((account) => account.type === type)}
                amounts={amounts}
                onChange={(id, minor) => setAmounts({ ...amounts, [id]: minor })}
              />
            ))}
            <tfoot>
              <tr>
                <th scope="row">
                  {equity && accountLabel(equity)}
                  <span className="quiet d-block">{t`the rest, so that both sides agree`}</span>
                </th>
                <td className="num">{amount(openingRest(accounts, amounts))}</td>
              </tr>
            </tfoot>
          </Table>
        </div>
        {error && <ErrorNote error={error} />}
        <Button type="submit" variant="main" disabled={isLoading || journal === null}>
          {t`Post opening balances`}
        </Button>
      </form>
    </main>
  );
}

function OpeningGroup({
  title,
  accounts,
  amounts,
  onChange,
}: {
  readonly title: string;
  readonly accounts: readonly Account[];
  readonly amounts: OpeningAmounts;
  readonly onChange: (accountId: string, minor: number) => void;
}) {
  if (accounts.length === 0) return null;
  return (
    <tbody>
      <tr>
        <th scope="rowgroup" colSpan={2} className="small-heading">
          {title}
        </th>
      </tr>
      {accounts.map((account) => (
        <tr key={account.id}>
          <th scope="row">{accountLabel(account)}</th>
          <td>
            <AmountField
              label={t`Opening balance of ${accountLabel(account)}`}
              value={amounts[account.id] ?? null}
              onChange={(minor) => onChange(account.id, minor ?? 0)}
            />
          </td>
        </tr>
      ))}
    </tbody>
  );
}
