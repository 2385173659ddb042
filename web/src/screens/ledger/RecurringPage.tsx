import type { JournalPlan } from '@zubrell/contract/journals';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { journalsApi } from '../../api/journals.ts';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { LedgerTabs } from './LedgerTabs.tsx';
import './ledger.scss';
import { PlanDialog } from './PlanDialog.tsx';
import { PlansTable } from './PlansTable.tsx';

/** Journals that recur: what is due, what comes next, and what was posted. */
export function RecurringPage() {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const showDate = useShowDate();
  const { data, error } = journalsApi.useJournalPlansQuery(booksId, {
    refetchOnMountOrArgChange: true,
  });
  const [post, { isLoading }] = journalsApi.usePostJournalsMutation();
  const [open, setOpen] = useState<JournalPlan | 'new' | null>(null);
  const plans = data?.plans ?? [];
  const due = plans.flatMap(({ id, due: dates }) => dates.map((date) => ({ planId: id, date })));
  return (
    <main className="ledger-list">
      <header className="list-head">
        <h1>{t`Ledger`}</h1>
        <LedgerTabs current="recurring" />
        <span className="ways">
          <Button variant="main" onClick={() => setOpen('new')}>
            {t`New recurring journal`}
          </Button>
        </span>
      </header>
      <section className="list-body" aria-label={t`Recurring journals`}>
        {error && <ErrorNote error={error} />}
        {!data && !error && <Waiting what={t`the recurring journals`} />}
        {data && plans.length === 0 && (
          <EmptyState title={t`No recurring journals yet`}>
            <p>
              {t`Depreciation, rent paid in advance, costs that come every month: set up the journal once. It appears here when due, and nothing is posted until you confirm.`}
            </p>
          </EmptyState>
        )}
        {due.length > 0 && (
          <p className="d-flex align-items-center gap-3">
            <span>
              {t`${counted(due.length, 'journal is', 'journals are')} due, the oldest since ${showDate(due.map(({ date }) => date).sort()[0] ?? '')}.`}
            </span>
            <Button
              variant="plain"
              disabled={isLoading}
              onClick={() => void post({ booksId, journals: due }).then(told)}
            >
              {due.length === 1 ? t`Post due journal` : t`Post ${due.length} due journals`}
            </Button>
          </p>
        )}
        {plans.length > 0 && <PlansTable plans={plans} onChange={setOpen} />}
      </section>
      {open !== null && (
        <PlanDialog plan={open === 'new' ? null : open} onClose={() => setOpen(null)} />
      )}
    </main>
  );
}
