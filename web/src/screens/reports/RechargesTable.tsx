import type { Recharge } from '@zubrell/contract/documents';
import { t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { documentAddress } from '../ledger/documentAddress.ts';

/** Costs to recharge, with a tick for those that are on no invoice. */
export function RechargesTable({
  recharges,
  ticked,
  onTick: toggle,
}: {
  readonly recharges: readonly Recharge[];
  readonly ticked: ReadonlySet<string>;
  readonly onTick: (legIds: readonly string[], isOn: boolean) => void;
}) {
  const { booksId, setup, accountName, payeeName, amount } = useBooks();
  const showDate = useShowDate();
  const jobName = (id: string | null) =>
    setup.costObjects.find((each) => each.id === id)?.name ?? '';
  const columns: readonly Column<Recharge>[] = [
    {
      id: 'tick',
      head: '',
      cell: ({ legId, text, invoice }) =>
        invoice === null && (
          <input
            type="checkbox"
            className="form-check-input"
            aria-label={t`Select ${text || t`this cost`}`}
            checked={ticked.has(legId)}
            onChange={({ target }) => toggle([legId], target.checked)}
          />
        ),
    },
    {
      id: 'job',
      head: t`Job`,
      cell: ({ jobId }) => jobName(jobId),
      sortBy: ({ jobId }) => jobName(jobId),
    },
    { id: 'date', head: t`Date`, cell: ({ date }) => showDate(date), sortBy: ({ date }) => date },
    {
      id: 'what',
      head: t`Cost`,
      cell: ({ payeeId, text, accountId, entryId }) => (
        <Link to={`/books/${booksId}/ledger/${accountId}?entry=${entryId}`}>
          {payeeName(payeeId) || text}
        </Link>
      ),
    },
    { id: 'account', head: t`Account`, cell: ({ accountId }) => accountName(accountId) },
    {
      id: 'net',
      head: t`Without tax`,
      className: 'num',
      cell: ({ net }) => amount(net),
      sortBy: ({ net }) => net,
    },
    {
      id: 'invoice',
      head: t`Invoice`,
      cell: ({ invoice }) =>
        invoice && (
          <Link to={documentAddress(booksId, { ...invoice, kind: 'invoice' })}>
            {invoice.number}
          </Link>
        ),
    },
  ];
  return (
    <DataTable
      className="report-table"
      rows={recharges}
      columns={columns}
      rowKey={({ legId }) => legId}
    />
  );
}
