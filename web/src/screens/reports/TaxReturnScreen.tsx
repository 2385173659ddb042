import { skipToken } from '@reduxjs/toolkit/query';
import type { TaxFigures } from '@zubrell/contract/tax';
import { noBoxes } from '@zubrell/core/ledger/starterBooks';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { taxDue } from '@zubrell/core/tax/taxReturn';
import { taxColumns, taxReturnTable } from '@zubrell/core/tax/taxReturnTable';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { taxApi } from '../../api/tax.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { DateField } from '../../ui/DateField.tsx';
import { Picker } from '../../ui/Picker.tsx';
import { OpenLines } from './OpenLines.tsx';
import { ReportBody } from './ReportBody.tsx';
import { type Figure, ReportTableView } from './ReportTableView.tsx';
import type { Period } from './reportPeriod.ts';
import { SaveWays } from './SaveWays.tsx';
import { TaxAgreementTable } from './TaxAgreementTable.tsx';
import { TaxFigureSheet } from './TaxFigureSheet.tsx';
import { TaxFiling } from './TaxFiling.tsx';
import { useReportFacts } from './useReportFacts.ts';

const NEXT = 'next';

/** The next tax return, to be looked at and filed, and those that were filed. */
export function TaxReturnScreen() {
  const { booksId, setup, amount, taxName } = useBooks();
  const [params, setParams] = useSearchParams();
  const [figure, setFigure] = useState<Figure | null>(null);
  const { data: all, error: allError } = taxApi.useTaxReturnsQuery(booksId);
  const filed = all?.returns.find(({ id }) => id === params.get('return')) ?? null;
  const next = all && {
    from: all.returns.length > 0 ? all.next.from : (params.get('taxFrom') ?? all.next.from),
    to: params.get('taxTo') ?? all.next.to,
  };
  const draft = taxApi.useTaxDraftQuery(next && !filed ? { booksId, ...next } : skipToken);
  const period: Period = filed ?? next ?? { from: '', to: '' };
  const facts = useReportFacts(period);
  const figures: TaxFigures | null = filed?.figures ?? draft.currentData ?? null;
  const report =
    figures &&
    taxReturnTable(figures.rows, {
      codeName: taxName,
      boxesOf: (id) => setup.taxCodes.find((code) => code.id === id)?.boxes ?? noBoxes,
    });
  const isEmpty = figures !== null && figures.rows.length === 0;
  const table: ReportTable | null = report && {
    title: t`Tax return`,
    facts: [...facts, ...(filed ? [t`Filed by ${filed.filedBy}`] : [t`Not filed`])],
    columns: taxColumns,
    sections: report.sections,
    foot: report.foot,
    currency: setup.books.currency,
  };
  const set = (changes: Readonly<Record<string, string | null>>) => {
    setFigure(null);
    setParams(
      (before) => {
        for (const [key, value] of Object.entries(changes)) {
          if (value === null) before.delete(key);
          else before.set(key, value);
        }
        return before;
      },
      { replace: true },
    );
  };
  return (
    <>
      <header className="report-bar">
        <Picker
          label={t`Return`}
          value={filed?.id ?? NEXT}
          all={null}
          choices={[
            [NEXT, t`Next return`],
            ...(all?.returns ?? []).map(({ id, from, to, kind }): [string, string] => [
              id,
              kind === 'elsewhere'
                ? t`Elsewhere to ${formatLongDate(to)}`
                : t`${formatLongDate(from)} to ${formatLongDate(to)}`,
            ]),
          ]}
          onChange={(id) => set({ return: id === NEXT ? null : id })}
        />
        {next && !filed && (
          <>
            <DateField
              labelled="beside"
              isNeeded
              label={t`From`}
              value={next.from}
              isFixed={all.returns.length > 0}
              onChange={(taxFrom) => set({ taxFrom })}
            />
            <DateField
              labelled="beside"
              isNeeded
              label={t`To`}
              value={next.to}
              onChange={(taxTo) => set({ taxTo })}
            />
            <OpenLines open={draft.currentData?.open ?? null} />
          </>
        )}
        <SaveWays table={table} />
      </header>
      <ReportBody
        title={t`Tax return`}
        words={figures && dueWords(figures, amount)}
        error={allError ?? (filed ? undefined : draft.error)}
        isEmpty={isEmpty}
      >
        {table && (
          <ReportTableView
            table={table}
            current={figure}
            opens={({ key }) => key.endsWith(' input') || key.endsWith(' output')}
            onFigure={setFigure}
          />
        )}
        {figures && <TaxAgreementTable agreement={figures.agreement} to={period.to} />}
      </ReportBody>
      {figure ? (
        <TaxFigureSheet
          key={figure.row.key}
          row={figure.row}
          period={period}
          returnId={filed?.id}
          onClose={() => setFigure(null)}
        />
      ) : (
        all && figures && <TaxFiling all={all} filed={filed} period={period} figures={figures} />
      )}
    </>
  );
}

function dueWords({ rows }: TaxFigures, amount: (minor: number) => string): string {
  const { output, input, due } = taxDue(rows);
  const what = due < 0 ? t`${amount(-due)} to reclaim` : t`${amount(due)} due`;
  return t`${what}: ${amount(output)} output tax, ${amount(input)} input tax`;
}
