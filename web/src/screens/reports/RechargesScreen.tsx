import { sumMinor } from '@zubrell/core/money/minor';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { documentsApi } from '../../api/documents.ts';
import { useUses } from '../../app/codingChoices.ts';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { Segments } from '../../ui/Segments.tsx';
import { DocumentDialog } from '../ledger/DocumentDialog.tsx';
import { RechargesTable } from './RechargesTable.tsx';
import { ReportBody } from './ReportBody.tsx';
import { rechargeInvoice } from './rechargeInvoice.ts';
import { SaveWays } from './SaveWays.tsx';

const STATES = [
  ['open', t`Not invoiced`],
  ['invoiced', t`Invoiced`],
] as const;

/** Costs that are to be charged to the customers of their jobs, taken onto an invoice together. */
export function RechargesScreen() {
  const { booksId, setup, accountName, payeeName, amount } = useBooks();
  const today = useToday();
  const uses = useUses();
  const [state, setState] = useState<(typeof STATES)[number][0]>('open');
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [isInvoicing, setIsInvoicing] = useState(false);
  const { data, error } = documentsApi.useRechargesQuery(booksId);
  const jobName = (id: string | null) =>
    setup.costObjects.find((each) => each.id === id)?.name ?? '';
  const shown = (data?.recharges ?? []).filter(
    ({ invoice }) => (invoice === null) === (state === 'open'),
  );
  const chosen = shown.filter(({ legId, invoice }) => invoice === null && ticked.has(legId));
  const total = sumMinor(shown.map(({ net }) => net));
  const jobs = [...new Set(chosen.map(({ jobId }) => jobId))];
  const toggle = (ids: readonly string[], isOn: boolean) => {
    const next = new Set(ticked);
    for (const id of ids) {
      if (isOn) next.add(id);
      else next.delete(id);
    }
    setTicked(next);
  };
  const table: ReportTable | null =
    data === undefined
      ? null
      : {
          title: state === 'open' ? t`Costs to recharge` : t`Recharged costs`,
          facts: [setup.books.name, t`In ${setup.books.currency}`],
          columns: [
            { name: t`Date`, kind: 'date' },
            { name: t`Cost`, kind: 'text' },
            { name: t`Account`, kind: 'text' },
            t`Without tax`,
            { name: t`Invoice`, kind: 'text' },
          ],
          sections: [
            {
              heading: '',
              rows: shown.map(({ legId, jobId, date, payeeId, text, accountId, net, invoice }) => ({
                key: legId,
                label: jobName(jobId),
                kind: 'account',
                amounts: [
                  date,
                  payeeName(payeeId) || text,
                  accountName(accountId),
                  net,
                  invoice?.number ?? null,
                ],
              })),
            },
          ],
          foot: null,
          currency: setup.books.currency,
        };
  return (
    <>
      <header className="report-bar">
        <Segments label={t`State`} choices={STATES} value={state} onChange={setState} />
        {state === 'open' && shown.length > 0 && (
          <Button
            variant="plain"
            onClick={() =>
              toggle(
                shown.map(({ legId }) => legId),
                chosen.length < shown.length,
              )
            }
          >
            {chosen.length < shown.length ? t`Select all` : t`Select none`}
          </Button>
        )}
        {chosen.length > 0 && (
          <Button variant="main" onClick={() => setIsInvoicing(true)}>
            {t`Add ${counted(chosen.length, 'cost', 'costs')} to an invoice`}
          </Button>
        )}
        {jobs.length > 1 && <span className="doubt">{t`Of ${jobs.length} jobs`}</span>}
        <SaveWays table={table} />
      </header>
      <ReportBody
        title={t`Costs to recharge`}
        words={
          data && <>{t`${counted(shown.length, 'cost', 'costs')}, ${amount(total)} without tax`}</>
        }
        error={error}
        isEmpty={data !== undefined && shown.length === 0}
        emptyWords={
          state === 'open'
            ? t`Mark a job’s cost for recharge when you code it; it then waits here for an invoice.`
            : t`No costs have been invoiced yet.`
        }
      >
        <RechargesTable recharges={shown} ticked={ticked} onTick={toggle} />
      </ReportBody>
      {isInvoicing && (
        <DocumentDialog
          side="receivables"
          document={null}
          start={rechargeInvoice(chosen, { setup, uses, today, payeeName })}
          onClose={() => {
            setIsInvoicing(false);
            setTicked(new Set());
          }}
        />
      )}
    </>
  );
}
