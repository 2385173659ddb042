import type { TaxFigures, TaxReturn, TaxReturns } from '@zubrell/contract/tax';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { hasLeave } from '@zubrell/core/people/leaves';
import { taxDue } from '@zubrell/core/tax/taxReturn';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import { taxApi } from '../../api/tax.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowMoment, useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import type { Period } from './reportPeriod.ts';

/** Files the next return, or says who filed this one. */
export function TaxFiling({
  all,
  filed,
  period,
  figures,
}: {
  readonly all: TaxReturns;
  readonly filed: TaxReturn | null;
  readonly period: Period;
  readonly figures: TaxFigures;
}) {
  const { setup } = useBooks();
  const mayClose = hasLeave(setup.books.leaves, 'close', setup.books.role);
  return (
    <aside className="figure filing" aria-label={t`Filing`}>
      {filed ? (
        <Filed filed={filed} isNewest={all.returns[0]?.id === filed.id} />
      ) : mayClose ? (
        <Filing isFirst={all.returns.length === 0} period={period} figures={figures} />
      ) : (
        <p className="quiet">
          {t`Your role can’t file returns. Ask an owner to change that in Settings.`}
        </p>
      )}
    </aside>
  );
}

function Filed({ filed, isNewest }: { readonly filed: TaxReturn; readonly isNewest: boolean }) {
  const { booksId, setup } = useBooks();
  const { undo } = useUndo();
  const showMoment = useShowMoment();
  const owed = setup.accounts.find(({ role }) => role === 'taxOwed');
  return (
    <>
      <h2>{filed.kind === 'filed' ? t`Filed` : t`Reported elsewhere`}</h2>
      <p>{t`By ${filed.filedBy} on ${showMoment(filed.filedAt)}.`}</p>
      {filed.note && <p>{filed.note}</p>}
      {filed.entryId && owed && (
        <p>
          <Link to={`/books/${booksId}/ledger/${owed.id}?entry=${filed.entryId}`}>
            {t`Journal that moved the tax`}
          </Link>
        </p>
      )}
      <p className="quiet">
        {t`Later changes to this period are reported in the next return, marked as late.`}
      </p>
      {isNewest && (
        <Button variant="plain" onClick={() => void undo(filed.step)}>
          {t`Undo filing`}
        </Button>
      )}
    </>
  );
}

function Filing({
  isFirst,
  period,
  figures,
}: {
  readonly isFirst: boolean;
  readonly period: Period;
  readonly figures: TaxFigures;
}) {
  const { booksId, amount, setup } = useBooks();
  const { told } = useUndo();
  const today = useToday();
  const [file, { isLoading }] = taxApi.useFileTaxReturnMutation();
  const [report, reporting] = taxApi.useReportedElsewhereMutation();
  const [movesTax, setMovesTax] = useState(true);
  const [locks, setLocks] = useState(true);
  const [note, setNote] = useState('');
  const { due } = taxDue(figures.rows);
  const isOver = period.to < today;
  const isLate = figures.rows.some(({ late }) => late.net !== 0 || late.tax !== 0);
  const { lockDate } = setup.books;
  const isLocked = lockDate !== null && lockDate >= period.to;
  const before = formatLongDate(addDays(period.from, -1));
  return (
    <>
      <h2>{t`File this return`}</h2>
      <p>
        {t`${due < 0 ? t`${amount(-due)} to reclaim` : t`${amount(due)} due`} for ${formatLongDate(period.from)} to ${formatLongDate(period.to)}.`}
      </p>
      {isLate && (
        <p className="doubt">
          {t`Part of this return is dated before the period, or was changed after being reported.`}
        </p>
      )}
      {!isOver && <p className="doubt">{t`The period isn’t over yet.`}</p>}
      <Form.Check
        id="tax-moves"
        label={t`Move the tax to the account for tax owed`}
        checked={movesTax}
        onChange={({ target }) => setMovesTax(target.checked)}
      />
      {!isLocked && (
        <Form.Check
          id="tax-locks"
          label={t`Lock the books up to ${formatLongDate(period.to)}`}
          checked={locks}
          onChange={({ target }) => setLocks(target.checked)}
        />
      )}
      <Form.Group controlId="tax-note" className="my-2">
        <Form.Label className="small-heading">{t`Note for the record`}</Form.Label>
        <Form.Control
          as="textarea"
          rows={3}
          maxLength={1_000}
          value={note}
          onChange={({ target }) => setNote(target.value)}
        />
      </Form.Group>
      <Button
        variant="main"
        disabled={!isOver || isLoading}
        onClick={() =>
          void file({
            booksId,
            from: period.from,
            to: period.to,
            seenDue: due,
            movesTax,
            locks,
            note: note.trim() || null,
          }).then(told)
        }
      >
        {t`File return`}
      </Button>
      {isFirst && (
        <div className="mt-4">
          <h2>{t`Tax reported elsewhere`}</h2>
          <p className="quiet">
            {t`Was the tax up to ${before} reported before these books were kept here? Then nothing dated up to that day is reported again.`}
          </p>
          <Button
            variant="plain"
            disabled={reporting.isLoading}
            onClick={() => void report({ booksId, to: addDays(period.from, -1) }).then(told)}
          >
            {t`Record ${before} as reported`}
          </Button>
        </div>
      )}
    </>
  );
}
