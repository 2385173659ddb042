import type { JournalPlan } from '@zubrell/contract/journals';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { journalsApi } from '../../api/journals.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { rhythmNames } from './planDraft.ts';

/** Recurring journals, each with its oldest due date to be posted or skipped. */
export function PlansTable({
  plans,
  onChange,
}: {
  readonly plans: readonly JournalPlan[];
  readonly onChange: (plan: JournalPlan) => void;
}) {
  const { booksId, accountName, amount } = useBooks();
  const { told } = useUndo();
  const showDate = useShowDate();
  const [post, posting] = journalsApi.usePostJournalsMutation();
  const [skip, skipping] = journalsApi.useSkipJournalMutation();
  const [remove] = journalsApi.useRemoveJournalPlanMutation();
  const isBusy = posting.isLoading || skipping.isLoading;
  const columns: readonly Column<JournalPlan>[] = [
    {
      id: 'name',
      head: t`Journal`,
      cell: (plan) => (
        <Button variant="link" onClick={() => onChange(plan)}>
          {plan.name}
        </Button>
      ),
      sortBy: ({ name }) => name,
    },
    {
      id: 'accounts',
      head: t`Accounts`,
      cell: ({ legs }) => legs.map(({ accountId }) => accountName(accountId)).join(', '),
      title: ({ legs }) => legs.map(({ accountId }) => accountName(accountId)).join(', '),
      className: 'accounts',
    },
    {
      id: 'rhythm',
      head: t`How often`,
      cell: ({ rhythm, isReversing, endDate }) => (
        <>
          {rhythmNames[rhythm]}
          {isReversing && t`, reversed`}
          {endDate && <span className="quiet d-block">{t`to ${showDate(endDate)}`}</span>}
        </>
      ),
      sortBy: ({ rhythm }) => rhythm,
    },
    {
      id: 'amount',
      head: t`Amount`,
      className: 'num',
      cell: ({ amount: debits }) => amount(debits),
      sortBy: (plan) => plan.amount,
    },
    {
      id: 'last',
      head: t`Last posted`,
      cell: ({ posted: [last], legs }) =>
        last ? (
          <Link to={`/books/${booksId}/ledger/${legs[0]?.accountId}?entry=${last.entryId}`}>
            {showDate(last.date)}
          </Link>
        ) : (
          <span className="quiet">{t`never`}</span>
        ),
      sortBy: ({ posted: [last] }) => last?.date ?? '',
    },
    {
      id: 'due',
      head: t`Due`,
      cell: ({ due: [oldest, ...others], next }) =>
        oldest ? (
          <span className="doubt">
            {showDate(oldest)}
            {others.length > 0 && t` and ${others.length} more`}
          </span>
        ) : (
          <span className="quiet">{next ? t`next ${showDate(next)}` : t`ended`}</span>
        ),
      sortBy: ({ due: [oldest], next }) => oldest ?? next ?? '9999',
    },
    {
      id: 'ways',
      head: '',
      className: 'ways',
      cell: ({ id, name, due: [oldest] }) =>
        oldest ? (
          <>
            <Button
              variant="plain"
              disabled={isBusy}
              aria-label={t`Post journal ${name} of ${showDate(oldest)}`}
              onClick={() =>
                void post({ booksId, journals: [{ planId: id, date: oldest }] }).then(told)
              }
            >
              {t`Post journal`}
            </Button>
            <Button
              variant="link"
              disabled={isBusy}
              aria-label={t`Skip ${name} for ${showDate(oldest)}`}
              onClick={() => void skip({ booksId, planId: id, date: oldest }).then(told)}
            >
              {t`Skip`}
            </Button>
          </>
        ) : (
          <Button
            variant="link"
            aria-label={t`Remove ${name}`}
            onClick={() => void remove({ booksId, planId: id }).then(told)}
          >
            {t`Remove`}
          </Button>
        ),
    },
  ];
  return (
    <DataTable
      className="list-table plans"
      rows={plans}
      columns={columns}
      rowKey={({ id }) => id}
      rowClass={({ due }) => (due.length > 0 ? 'due' : '')}
    />
  );
}
