import type { ClientMoney } from '@zubrell/contract/reports';
import type { BankAccountId, PayeeId } from '@zubrell/core/ids';
import type { ReportTable, TableRow } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { reportsApi } from '../../api/reports.ts';
import { formatLongDate } from '../../app/formats.ts';
import { InCurrency } from '../../app/InCurrency.tsx';
import { useBooks } from '../../app/useBooks.ts';
import { ClientMovementsSheet } from './ClientMovementsSheet.tsx';
import { ReportBar } from './ReportBar.tsx';
import { ReportBody } from './ReportBody.tsx';
import { ReportTableView } from './ReportTableView.tsx';
import { daysOfColumn } from './reportPeriod.ts';
import { useReportFacts } from './useReportFacts.ts';
import { useReportPeriod } from './useReportPeriod.ts';

type HeldAccount = ClientMoney['accounts'][number];

/** A client on a bank account; null for what is not one client's. */
interface ClientRow extends TableRow {
  readonly client: { readonly bankAccountId: BankAccountId; readonly clientId: PayeeId } | null;
}

const COLUMNS = [t`Before`, t`In`, t`Out`, t`After`];

/** What bank accounts that hold clients' money hold, and for whom: it comes to what the bank has. */
export function ClientMoneyScreen() {
  const { booksId, payeeName, bankAccountName, currencyOf } = useBooks();
  const { period } = useReportPeriod();
  const facts = useReportFacts(period);
  const [shown, setShown] = useState<{
    readonly row: ClientRow;
    readonly column: number;
  } | null>(null);
  const { currentData: data, error } = reportsApi.useClientMoneyQuery({ booksId, ...period });
  const accounts = data?.accounts ?? [];
  const tables = accounts.map(
    (account): ReportTable<ClientRow> => ({
      title: t`Clients’ money`,
      facts: [...facts.slice(0, -1), t`In ${currencyOf(account.bankAccountId)}`],
      columns: COLUMNS,
      sections: [
        { heading: bankAccountName(account.bankAccountId), rows: clientRows(account, payeeName) },
      ],
      foot: {
        key: `held ${account.bankAccountId}`,
        label: t`Held by the bank account`,
        kind: 'result',
        client: null,
        amounts: [null, null, null, account.held],
      },
      currency: currencyOf(account.bankAccountId),
    }),
  );
  return (
    <>
      <ReportBar table={wholeOf(tables)} open={null} isCompared={false} />
      <ReportBody
        title={t`Clients’ money`}
        words={
          data && accounts.length > 0 && <>{t`Whose money it is on ${formatLongDate(period.to)}`}</>
        }
        error={error}
        isEmpty={data !== undefined && accounts.length === 0}
        emptyWords={t`No bank account holds clients’ money. Create one under Ledger: each of its lines then names its client.`}
      >
        {tables.map((table, at) => (
          <InCurrency key={accounts[at]?.bankAccountId} currency={table.currency}>
            <ReportTableView
              table={table}
              current={shown}
              opens={({ client }) => client !== null}
              onFigure={setShown}
            />
          </InCurrency>
        ))}
        {accounts.some(({ unsaid }) => unsaid !== 0) && (
          <p className="doubt">
            {t`Part of the balance has no client yet, because the opening balance didn’t name one. Enter it under Ledger, in the register of the account.`}
          </p>
        )}
      </ReportBody>
      {shown?.row.client && (
        <InCurrency currency={currencyOf(shown.row.client.bankAccountId)}>
          <ClientMovementsSheet
            key={shown.row.key}
            {...shown.row.client}
            period={daysOfColumn(shown.column, period)}
            onClose={() => setShown(null)}
          />
        </InCurrency>
      )}
    </>
  );
}

function clientRows(
  { bankAccountId, clients, unsaid }: HeldAccount,
  payeeName: (id: string) => string,
): readonly ClientRow[] {
  const rows = clients.map(
    ({ clientId, opening, in: came, out, closing }): ClientRow => ({
      key: `${bankAccountId} ${clientId}`,
      label: payeeName(clientId),
      kind: 'account',
      client: { bankAccountId, clientId },
      amounts: [opening, came, out, closing],
    }),
  );
  if (unsaid === 0) return rows;
  const nobody: ClientRow = {
    key: `unsaid ${bankAccountId}`,
    label: t`No client yet`,
    kind: 'account',
    client: null,
    amounts: [null, null, null, unsaid],
  };
  return [...rows, nobody];
}

/** All accounts as one table, to be saved; null where there is none, or where they are in several currencies. */
function wholeOf(tables: readonly ReportTable<ClientRow>[]): ReportTable | null {
  const [first] = tables;
  if (!first || tables.some(({ currency }) => currency !== first.currency)) return null;
  const sections = tables.map(({ sections: own, foot }) => ({
    heading: own[0]?.heading ?? '',
    rows: [...(own[0]?.rows ?? []), ...(foot ? [foot] : [])],
  }));
  return { ...first, sections, foot: null };
}
